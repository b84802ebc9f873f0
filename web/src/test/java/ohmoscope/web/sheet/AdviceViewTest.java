package ohmoscope.web.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.web.Opened;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.sheet.EvidenceStrips.Strip;
import ohmoscope.web.store.IntakeStore.Intake;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Advice and evidence as the sheet words them, on the bench console. */
class AdviceViewTest {
    private static final Instant IMPORTED = Instant.parse("2026-01-01T00:00:00Z");

    private static AdviceView view(Desk.Open open) {
        return AdviceView.of(open.job(), open.advice(), ReadMode.DIODE);
    }

    private static List<Strip> strips(String... lines) {
        Desk.Open open = Opened.job(lines);
        return EvidenceStrips.of(open.job().board(), open.job().entries(), open.advice(), IMPORTED, ZoneOffset.UTC);
    }

    @Test
    void aReadingIsAskedForAtAnEasyPlace() {
        AdviceView view = view(Opened.job("look J1 clean"));
        SheetView.Step next = view.next().orElseThrow();
        assertThat(next.sentence()).matches("Read V\\w+ in diode mode, at [A-Z]+\\d+\\.");
        assertThat(next.act()).isEqualTo("fill");
        assertThat(next.target()).matches("V\\w+ d ");
        assertThat(next.cautions()).anyMatch(c -> c.contains("Battery out"));
    }

    @Test
    void aRemovalIsAButtonThatKeepsWhatWasKnown() {
        AdviceView view = view(Opened.job("look J1 pins touching"));
        assertThat(view.next().orElseThrow().act()).isEqualTo("lift");
        assertThat(view.next().orElseThrow().target()).isEqualTo("J1");
        assertThat(view.next().orElseThrow().cautions()).anyMatch(c -> c.contains("300–400 °C"));
        assertThat(view.remaining().get(0).ref()).isEqualTo("J1");
        assertThat(view.remaining().get(0).words()).startsWith("the port is damaged, connector DC input jack");
    }

    @Test
    void faultsAreRankedAndFewStand() {
        AdviceView view = view(Opened.job("VMAIN d .002"));
        assertThat(view.remaining()).hasSizeLessThanOrEqualTo(5);
        assertThat(view.remaining()).extracting(AdviceView.Fault::rank).startsWith(1, 2, 3);
        assertThat(view.others())
                .hasSizeLessThanOrEqualTo(4)
                .allSatisfy(o -> assertThat(o.why()).isNotBlank());
    }

    @Test
    void howItCameInForbidsToo() {
        Desk.Open open = Opened.job("VMAIN d .43");
        JobFile.Stored job = open.job();
        JobFile.Stored swollen = new JobFile.Stored(
                job.row(),
                job.bundle(),
                job.entries(),
                Optional.of(new Intake("fat battery", "", "", List.of("swollen-cell", "liquid"))),
                job.board(),
                List.of());
        assertThat(AdviceView.stops(swollen, open.advice()))
                .extracting(AdviceView.StopLine::code)
                .containsExactly("cell", "liquid");
        assertThat(AdviceView.stops(job, open.advice())).isEmpty();
        Desk.Open looked = Opened.job("look J1 clean");
        JobFile.Stored dried = new JobFile.Stored(
                looked.job().row(),
                looked.job().bundle(),
                looked.job().entries(),
                Optional.of(new Intake("", "", "", List.of("liquid"))),
                looked.job().board(),
                List.of());
        assertThat(AdviceView.stops(dried, looked.advice()))
                .as("it has been looked at")
                .isEmpty();
    }

    @ParameterizedTest
    @CsvSource({
        "VMAIN d .002, bad, Shorted: next to nothing",
        "VMAIN d .43, ok, As a good board reads. Good boards read 0.33–0.60 V.",
        "VCORE ohm 3.2, ok, Low by design",
        "VMAIN d OL, look, Above what a good board reads",
        "VMAIN v 19 charger, ok, The voltage is there.",
        "VMAIN v 0.1 charger, bad, No voltage here.",
        "look J1 pin bent, look, Raises a suspicion",
        "look J1 clean, ok, Looked at; nothing to see.",
        "removed C7, done, With heat: let the board cool",
        "unplugged J3, done, Without heat.",
        "charger J1 2V 4A collapse, bad, Far too much current",
        "charger J1 19V 0.7A rising on, ok, The draw is normal",
        "warm C7 3K camera, plain, By camera.",
        "boots, plain, How the device behaves.",
        "across R2 ohm OL, bad, R2 is open."
    })
    void eachEntrySaysWhatItMeansHere(String line, String mark, String meaning) {
        Strip strip = strips(line).get(0);
        assertThat(strip.mark()).as(line).isEqualTo(mark);
        assertThat(strip.meaning()).startsWith(meaning);
        assertThat(strip.by()).isEqualTo("ada");
        assertThat(strip.time()).isEqualTo("09:00");
    }

    @Test
    void anEntryThatAChangeHasOvertakenKeepsItsVerdict() {
        List<Strip> strips = strips("VMAIN d .002", "removed C7", "VMAIN d .43");
        assertThat(strips).extracting(Strip::mark).containsExactly("bad", "done", "ok");
        assertThat(strips.get(0).line()).isEqualTo("VMAIN d 0.002");
        assertThat(strips.get(1).line()).isEqualTo("removed C7");
    }

    @Test
    void theHeadLeadsToEachStepsPage() {
        JobHead head = Opened.job("VMAIN d .43").head();
        assertThat(head.railVolts()).isEqualTo("19 V");
        assertThat(head.walk()).hasSize(11);
        assertThat(head.walk().stream().filter(w -> !w.page().isEmpty()).map(JobHead.WalkStop::name))
                .containsExactly("Receive", "First power", "Survey", "Isolate", "Inject", "Name it", "Hand back");
        assertThat(head.walk()).filteredOn(w -> w.state().equals("now")).hasSize(1);
    }
}
