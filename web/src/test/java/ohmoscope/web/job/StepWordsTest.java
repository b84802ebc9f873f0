package ohmoscope.web.job;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Stream;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.locate.SourceEstimate;
import ohmoscope.core.prove.NextStep;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

class StepWordsTest {
    private static final Board BOARD = Fixtures.board();

    private static Part part(String ref) {
        return BOARD.part(ref).orElseThrow();
    }

    private static final Change LIFTED = new Change(2, ChangeAction.REMOVED, "C3", true);

    private static Stream<NextStep> steps() {
        SourceEstimate at = new SourceEstimate(8.04, 5.12, Side.BOTTOM, 0.3, 0.3, 0.3, 0, 0.1, OptionalDouble.empty());
        return Stream.of(
                new NextStep.CheckLeads(),
                new NextStep.MorePower(0.003),
                new NextStep.TurnOver(part("C3")),
                new NextStep.GoCloser(part("C3"), Optional.of(part("C2"))),
                new NextStep.LookElsewhere(at, Optional.of(part("R1"))),
                new NextStep.Lift(part("C3"), 0.93, Optional.of(new NextStep.Neighbour(part("C4"), 2.44))),
                new NextStep.ReadAgain(LIFTED, Optional.of(Fixtures.diode(1, "VSYS", 0.003))),
                new NextStep.StillThere(LIFTED),
                new NextStep.LetCool(LIFTED),
                new NextStep.HandBack(LIFTED, false),
                new NextStep.HandBack(LIFTED, true));
    }

    private static StepLine words(NextStep step) {
        return StepWords.of(step, "VSYS");
    }

    @ParameterizedTest
    @MethodSource("steps")
    void everyStepIsASentenceWithItsReason(NextStep step) {
        StepLine words = words(step);
        assertThat(words.sentence()).endsWith(".").matches("[A-Z].*");
        assertThat(words.why()).endsWith(".");
        assertThat(words.act()).isIn("lift", "again", "none", "fill", "hand-back");
    }

    @Test
    void whatIsColdNeedsNoCooling() {
        Change unplugged = new Change(2, ChangeAction.DISCONNECTED, "J1", false);
        assertThat(words(new NextStep.ReadAgain(LIFTED, Optional.empty())).sentence())
                .isEqualTo("Let it cool, then read VSYS again.");
        assertThat(words(new NextStep.ReadAgain(unplugged, Optional.empty())).sentence())
                .isEqualTo("Read VSYS again.");
        assertThat(words(new NextStep.ReadAgain(unplugged, Optional.empty())).why())
                .isEqualTo("Same point, same mode as before J1 was unplugged.");
        assertThat(words(new NextStep.StillThere(unplugged)).sentence()).contains("J1 is not to blame");
    }

    @ParameterizedTest
    @MethodSource("steps")
    void workThatCanHurtSaysSo(NextStep step) {
        if (!(step instanceof NextStep.HandBack)) {
            assertThat(words(step).cautions()).isNotEmpty();
        }
        if (step instanceof NextStep.Lift) {
            assertThat(words(step).cautions())
                    .anyMatch(c -> c.contains("Fumes"))
                    .anyMatch(c -> c.contains("Battery"));
        }
        if (step instanceof NextStep.MorePower || step instanceof NextStep.LookElsewhere) {
            assertThat(words(step).cautions()).anyMatch(c -> c.contains("nominal voltage"));
        }
    }

    @Test
    void aLiftNamesThePartItsOddsAndWhatMustStayCool() {
        StepLine words =
                words(new NextStep.Lift(part("C3"), 0.93, Optional.of(new NextStep.Neighbour(part("C4"), 2.44))));
        assertThat(words.sentence()).isEqualTo("Lift C3. Keep the air off C4, 2.4 mm away.");
        assertThat(words.why()).contains("93 %").contains("costs one capacitor");
        assertThat(words.target()).isEqualTo("C3");
        assertThat(words(new NextStep.Lift(part("C3"), 0.93, Optional.empty())).sentence())
                .isEqualTo("Lift C3.");
    }

    @Test
    void heatOffTheRailIsPlaced() {
        SourceEstimate at = new SourceEstimate(8.04, 5.12, Side.BOTTOM, 0.3, 0.3, 0.3, 0, 0.1, OptionalDouble.empty());
        StepLine on = words(new NextStep.LookElsewhere(at, Optional.of(part("R1"))));
        assertThat(on.sentence()).isEqualTo("Find out what warms off VSYS.");
        assertThat(on.why())
                .contains("8.0, 5.1 mm (bottom)")
                .contains("R1 stands there")
                .contains("registration");
        StepLine bare = words(new NextStep.LookElsewhere(at, Optional.empty()));
        assertThat(bare.why()).contains("nothing else stands there");
    }

    @Test
    void aPlaceWithOneOrTwoSuspects() {
        assertThat(words(new NextStep.GoCloser(part("C3"), Optional.of(part("C2"))))
                        .sentence())
                .isEqualTo("Go closer to C3 and C2.");
        assertThat(words(new NextStep.GoCloser(part("C3"), Optional.empty())).sentence())
                .isEqualTo("Go closer to C3.");
    }
}
