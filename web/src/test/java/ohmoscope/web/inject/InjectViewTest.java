package ohmoscope.web.inject;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.OptionalDouble;
import ohmoscope.core.diagnose.Advisor;
import ohmoscope.web.Opened;
import ohmoscope.web.inject.InjectView.Given;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.store.CameraStore;
import org.junit.jupiter.api.Test;

class InjectViewTest {
    private static InjectView view(String... lines) {
        return tried(OptionalDouble.empty(), OptionalDouble.empty(), lines);
    }

    private static InjectView tried(OptionalDouble volts, OptionalDouble amps, String... lines) {
        OpenJobs.Open open = Opened.job(lines);
        Advisor advisor = new Advisor(open.job().board());
        return InjectView.of(
                open,
                advisor.joined("VMAIN", open.advice().now()),
                Given.USUAL,
                volts,
                amps,
                List.of(new CameraStore.Known("Bench eye", 256, 192, 25, OptionalDouble.of(0.04))));
    }

    @Test
    void beforeTheFirstInjectionTheShortIsGuessed() {
        InjectView view = view("VMAIN d .002");
        assertThat(view.fault()).endsWith("guessed: nothing has been injected yet");
        assertThat(view.ceiling()).isEqualTo("11 V, as VCELL hangs on it");
        assertThat(view.ladder()).isNotEmpty();
        assertThat(view.ladder().get(0).fill()).startsWith("inj VMAIN 0.");
        assertThat(view.plot()).isEmpty();
        assertThat(view.signs()).isEmpty();
    }

    @Test
    void whatTheSupplyShowedReplacesTheGuess() {
        InjectView view = view(
                "VMAIN d .002",
                "inj VMAIN 0.3V 0.5A 50mV 0.5A leads 60mohm",
                "inj VMAIN 0.3V 1A 100mV 1A leads 60mohm");
        assertThat(view.fault()).startsWith("40 mΩ, ").doesNotContain("guessed");
        assertThat(view.plot()).hasValueSatisfying(p -> {
            assertThat(p.points()).hasSize(2);
            assertThat(p.words()).startsWith("The short: 40 mΩ");
        });
        assertThat(view.signs()).anyMatch(s -> s.contains("current limit"));
    }

    @Test
    void troubleIsSaidInWords() {
        assertThat(view("inj VMAIN 1V 2A 1V 0A").signs()).containsExactly("No current: a lead is not touching.");
        assertThat(view("inj VMAIN 1V 2A 61mV 1A leads 60mohm").signs()).anyMatch(s -> s.startsWith("The leads alone"));
        assertThat(view("inj VMAIN 1V 2A 0.3V 2A burst").signs()).anyMatch(s -> s.startsWith("It shut itself off"));
    }

    @Test
    void aSettingIsTriedOut() {
        InjectView hot = tried(
                OptionalDouble.of(15), OptionalDouble.of(5), "VMAIN d .002", "inj VMAIN 0.3V 1A 0.26V 1A leads 60mohm");
        assertThat(hot.whatIf().limits())
                .anyMatch(l -> l.startsWith("Above what VCELL bears"))
                .anyMatch(l -> l.startsWith("More than the leads carry"))
                .anyMatch(l -> l.contains("smoke within seconds"));
        assertThat(hot.whatIf().rings()).isNotEmpty();
        InjectView faint = tried(
                OptionalDouble.of(0.3),
                OptionalDouble.of(0.1),
                "VMAIN d .002",
                "inj VMAIN 0.3V 1A 0.07V 1A leads 60mohm");
        assertThat(faint.whatIf().verdict()).startsWith("not seen");
        assertThat(faint.whatIf().limits()).isEmpty();
    }

    @Test
    void stepsThatWereTriedAreTicked() {
        InjectView plain = view("VMAIN d .002");
        InjectView.Line first = plain.ladder().get(0);
        InjectView after = view("VMAIN d .002", first.fill() + "0.05V 0.2A leads 60mohm");
        assertThat(first.done()).isFalse();
        assertThat(after.ladder()).anySatisfy(l -> assertThat(l.done()).isTrue());
    }

    @Test
    void theLeadsAreKeptOffTheSuspects() {
        InjectView view = view("VMAIN d .002");
        assertThat(view.where().hot())
                .isNotEmpty()
                .allSatisfy(p -> assertThat(p.why()).contains("mm²"));
        assertThat(view.where().back()).isNotEmpty();
        assertThat(view.where().pictures()).isNotEmpty();
        assertThat(view.where().pictures().get(0).probes())
                .anyMatch(m -> m.words().equals("hot lead") || m.words().equals("return"));
    }

    @Test
    void aKnownCameraIsOfferedAsItSeesTheWholeBoard() {
        InjectView view = view("VMAIN d .002");
        assertThat(view.cameras()).singleElement().satisfies(c -> {
            assertThat(c.name()).isEqualTo("Bench eye");
            assertThat(Double.parseDouble(c.pixel())).isBetween(0.2, 0.8);
            assertThat(c.noise()).isEqualTo("0.04");
            assertThat(c.numbers()).contains("40 mK", "25 frames a second");
        });
    }
}
