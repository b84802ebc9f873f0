package ohmoscope.web.job;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.InstanceOfAssertFactories.STRING;

import java.time.Duration;
import java.time.ZoneOffset;
import java.util.List;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.web.Opened;
import ohmoscope.web.job.EvidenceStrips.Strip;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Advice and evidence as the sheet words them, on the bench console. */
class AdviceViewTest {
    private static AdviceView view(OpenJobs.Open open) {
        return AdviceView.of(open);
    }

    private static List<Strip> strips(String... lines) {
        OpenJobs.Open open = Opened.job(lines);
        return EvidenceStrips.of(open.job(), open.job().entries(), open.advice(), ZoneOffset.UTC);
    }

    @Test
    void aReadingIsAskedForAtAnEasyPlace() {
        AdviceView view = view(Opened.job("look J1 clean"));
        StepLine next = view.next().orElseThrow();
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

    private static List<String> stops(OpenJobs.Open open) {
        return AdviceView.stops(open).stream()
                .map(AdviceView.StopLine::sentence)
                .toList();
    }

    @Test
    void howItCameInForbidsToo() {
        OpenJobs.Open open = Opened.job("VMAIN d .43");
        assertThat(AdviceView.stops(Opened.later(open, Duration.ZERO, "swollen-cell", "liquid")))
                .extracting(AdviceView.StopLine::code)
                .containsExactly("cell", "liquid");
        assertThat(AdviceView.stops(open)).isEmpty();
    }

    @Test
    void liquidIsOverWhenEachPlaceWhereItStaysWasSeenClean() {
        assertThat(stops(Opened.later(Opened.job("look J1 clean"), Duration.ZERO, "liquid")))
                .singleElement(STRING)
                .contains("Not seen clean yet: J2")
                .doesNotContain("J1");
        List<String> places = Opened.job("look J1 clean").job().board().parts().stream()
                .filter(p -> p.kind() == PartKind.CONNECTOR || p.kind() == PartKind.SHIELD)
                .map(Part::ref)
                .toList();
        String[] all = places.stream().map(ref -> "look " + ref + " clean").toArray(String[]::new);
        assertThat(stops(Opened.later(Opened.job(all), Duration.ZERO, "liquid")))
                .isEmpty();
        all[0] = "look " + places.get(0) + " corroded";
        assertThat(stops(Opened.later(Opened.job(all), Duration.ZERO, "liquid")))
                .singleElement(STRING)
                .contains("Not seen clean yet: " + places.get(0) + ".");
    }

    @Test
    void theOnlyCopyStopsHeatAndNothingElse() {
        assertThat(stops(Opened.later(Opened.job("look J1 pins touching"), Duration.ZERO, "only-copy")))
                .anyMatch(s -> s.contains("make an image of it"));
        assertThat(stops(Opened.later(Opened.job("VMAIN d .43"), Duration.ZERO, "only-copy")))
                .isEmpty();
    }

    @Test
    void aBoardThatWasHeatedIsHotForSomeMinutes() {
        OpenJobs.Open heated = Opened.job("VMAIN d .002", "removed C22");
        assertThat(stops(heated)).anyMatch(s -> s.contains("still hot") && s.endsWith("5 min more."));
        assertThat(stops(Opened.later(heated, Duration.ofSeconds(150))))
                .anyMatch(s -> s.contains("still hot") && s.endsWith("2 min more."));
        OpenJobs.Open cold = Opened.later(heated, Duration.ofMinutes(6));
        assertThat(stops(cold)).noneMatch(s -> s.contains("still hot"));
        assertThat(view(heated).next().orElseThrow().sentence()).startsWith("Let the board cool.");
        assertThat(view(cold).next().orElseThrow().sentence()).doesNotContain("cool");
    }

    @Test
    void aReadingWithTheBatteryInIsMarked() {
        List<Strip> strips = strips("plugged battery", "VMAIN d .003", "unplugged battery", "VMAIN d .003");
        assertThat(strips.get(1).mark()).isEqualTo("look");
        assertThat(strips.get(1).meaning()).contains("Read with the battery in");
        assertThat(strips.get(3).mark()).isEqualTo("bad");
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
    void aDrawThatIsRightOnlyForADeviceThatRunsIsNotCalledNormal() {
        Strip off = strips("charger J1 19V 1.1A flat battery out").get(0);
        assertThat(off.mark()).isEqualTo("look");
        assertThat(off.meaning())
                .contains("right for one that runs", "A good one takes up to 36 mA here; the rest goes through")
                .doesNotContain("The draw is normal");
        Strip on = strips("charger J1 19V 1.1A flat battery out on").get(0);
        assertThat(on.mark()).isEqualTo("ok");
        assertThat(on.meaning()).contains("The draw is normal").doesNotContain("A good one takes");
    }

    @Test
    void theHeadLeadsToEachStepsPage() {
        JobHead head = Opened.job("VMAIN d .43").head();
        assertThat(head.railVolts()).isEqualTo("19 V");
        assertThat(head.walk()).hasSize(11);
        assertThat(head.walk().stream().filter(w -> !w.page().isEmpty()).map(JobHead.WalkStop::name))
                .containsExactly(
                        "Receive",
                        "First power",
                        "Look",
                        "Survey",
                        "Isolate",
                        "Inject",
                        "Name it",
                        "Rework",
                        "Hand back");
        assertThat(head.walk()).filteredOn(w -> w.state().equals("now")).hasSize(1);
    }
}
