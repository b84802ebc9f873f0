package ohmoscope.core.diagnose;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Collections;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.PowerFixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.diagnose.Experience.Case;
import ohmoscope.core.diagnose.Hypothesis.Code;
import org.junit.jupiter.api.Test;

/** What others of the model had is tried first, by a reading, and never taken off for that. */
class UsualRulesTest {
    private static final Board BOARD = PowerFixtures.board();

    private static Advice advice(Experience experience, String... lines) {
        return new Advisor(BOARD).advise(Optional.empty(), "", Entries.of(BOARD, lines), Schools.DEFAULT, experience);
    }

    private static Experience had(int times, Code code, String target) {
        return new Experience(Collections.nCopies(times, new Case(Optional.of(code), target, 1)));
    }

    private static List<Step> usual(Advice advice) {
        return advice.next().stream()
                .filter(s -> s.reason() == Step.Reason.USUAL_FAULT)
                .toList();
    }

    @Test
    void theRailOfTheUsualShortIsReadAfterTheFirstLook() {
        Advice advice = advice(had(4, Code.SHORT, "C3"), "dead", "unplugged battery");
        assertThat(advice.next().get(0).action()).isEqualTo(Step.Action.LOOK);
        assertThat(usual(advice)).singleElement().satisfies(s -> {
            assertThat(s.action()).isEqualTo(Step.Action.READ);
            assertThat(BOARD.part("C3").orElseThrow().pins())
                    .anyMatch(p -> p.net().equals(s.target().orElseThrow()));
        });
        assertThat(advice.experience()).singleElement().satisfies(t -> {
            assertThat(t.target()).isEqualTo("C3");
            assertThat(t.cases()).isEqualTo(4);
        });
    }

    @Test
    void onceIsNotUsualAndAnEmptyMemoryChangesNothing() {
        assertThat(usual(advice(had(1, Code.SHORT, "C3"), "dead"))).isEmpty();
        Advice plain = new Advisor(BOARD).advise(Optional.empty(), "", Entries.of(BOARD, "dead"));
        assertThat(advice(Experience.NONE, "dead")).isEqualTo(plain);
    }

    @Test
    void whatWasReadRightIsNotReadAgain() {
        String rail =
                usual(advice(had(4, Code.SHORT, "C3"), "dead")).get(0).target().orElseThrow();
        Advice read = advice(had(4, Code.SHORT, "C3"), "dead", "look J1 clean", rail + " d .42");
        assertThat(usual(read)).isEmpty();
        assertThat(read.next()).noneMatch(s -> s.action() == Step.Action.REMOVE || s.action() == Step.Action.REPLACE);
    }

    /** However often another board had it: this one's short has to be found. */
    @Test
    void nothingIsTakenOffForHavingBeenTheFaultOfOthers() {
        String rail =
                usual(advice(had(12, Code.SHORT, "C3"), "dead")).get(0).target().orElseThrow();
        Advice shorted =
                advice(had(12, Code.SHORT, "C3"), "dead", "unplugged battery", "look J1 clean", rail + " d .001");
        assertThat(shorted.leading().orElseThrow().target()).isEqualTo("C3");
        assertThat(shorted.next().get(0).action()).isEqualTo(Step.Action.LOOK);
        Advice looked = advice(
                had(12, Code.SHORT, "C3"),
                "dead",
                "unplugged battery",
                "look J1 clean",
                rail + " d .001",
                "look C3 clean");
        assertThat(looked.next().get(0).action()).isEqualTo(Step.Action.INJECT);
    }
}
