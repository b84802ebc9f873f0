package ohmoscope.core.diagnose;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.diagnose.Experience.Case;
import ohmoscope.core.diagnose.Experience.Tempered;
import ohmoscope.core.diagnose.Hypothesis.Code;
import org.junit.jupiter.api.Test;

class ExperienceTest {
    private static final List<Suspicion> ALL = List.of(
            Suspicion.unseen(Code.SHORT, "C1", 1),
            Suspicion.unseen(Code.SHORT, "C2", 1),
            Suspicion.unseen(Code.SHORT, "U1", 0.6),
            Suspicion.unseen(Code.DEAD_CONTROLLER, "U1", 0.4),
            Suspicion.unseen(Code.OPEN, "F1", 1),
            Suspicion.unseen(Code.NONE, "", 96));

    private static Case met(Code code, String target) {
        return new Case(Optional.of(code), target, 1);
    }

    private static double prior(List<Suspicion> of, Code code, String target) {
        return of.stream()
                .filter(s -> s.code() == code && s.target().equals(target))
                .mapToDouble(Suspicion::prior)
                .sum();
    }

    private static double times(Experience experience, Code code, String target) {
        List<Suspicion> then = experience.temper(ALL);
        return prior(then, code, target) / prior(ALL, code, target);
    }

    @Test
    void nothingKnownChangesNothing() {
        assertThat(Experience.NONE.temper(ALL)).isEqualTo(ALL);
        assertThat(Experience.NONE.told(ALL)).isEmpty();
    }

    /** With the trade worth twelve cases, by hand, for a fault that is common anyway. */
    @Test
    void countsAreAddedToTheTradesFrequencies() {
        List<Suspicion> two = List.of(Suspicion.unseen(Code.SHORT, "C1", 3), Suspicion.unseen(Code.OPEN, "F1", 1));
        Experience one = new Experience(List.of(met(Code.OPEN, "F1")));
        double shorts = prior(one.temper(two), Code.SHORT, "C1");
        double opens = prior(one.temper(two), Code.OPEN, "F1");
        assertThat(opens / shorts).isCloseTo((12 * 0.25 + 1) / (12 * 0.75), within(1e-9));
    }

    @Test
    void whatWasMetOftenerIsLikelierAndNeverBeyondTheLimit() {
        List<Case> cases = new ArrayList<>(List.of(met(Code.SHORT, "C1")));
        double once = times(new Experience(cases), Code.SHORT, "C1");
        assertThat(once).isGreaterThan(1.5);
        cases.addAll(Collections.nCopies(40, met(Code.SHORT, "C1")));
        double often = times(new Experience(cases), Code.SHORT, "C1");
        assertThat(often).isGreaterThanOrEqualTo(once).isLessThanOrEqualTo(5);
        assertThat(times(new Experience(cases), Code.SHORT, "C2")).isEqualTo(1);
    }

    /** A dead chip speaks a little for the same chip shorted, and more where nobody said which. */
    @Test
    void anotherFaultOfTheSamePartIsMovedLess() {
        List<Suspicion> common = List.of(
                Suspicion.unseen(Code.SHORT, "U1", 1),
                Suspicion.unseen(Code.DEAD_CONTROLLER, "U1", 1),
                Suspicion.unseen(Code.OPEN, "F1", 4));
        Experience dead = new Experience(List.of(met(Code.DEAD_CONTROLLER, "U1")));
        List<Suspicion> then = dead.temper(common);
        assertThat(prior(then, Code.DEAD_CONTROLLER, "U1")).isGreaterThan(prior(then, Code.SHORT, "U1"));
        assertThat(prior(then, Code.SHORT, "U1")).isGreaterThan(1);
        Experience unsaid = new Experience(List.of(new Case(Optional.empty(), "U1", 1)));
        List<Suspicion> even = unsaid.temper(common);
        assertThat(prior(even, Code.DEAD_CONTROLLER, "U1")).isCloseTo(prior(even, Code.SHORT, "U1"), within(1e-12));
    }

    @Test
    void whatThisBoardDoesNotHaveCountsForNothing() {
        Experience other = new Experience(List.of(met(Code.SHORT, "C99")));
        assertThat(other.temper(ALL)).isEqualTo(ALL);
        assertThat(other.told(ALL)).isEmpty();
    }

    /** A shop whose devices have changed: the newest cases outweigh many old ones. */
    @Test
    void oldCasesFade() {
        List<Case> cases = new ArrayList<>(Collections.nCopies(16, met(Code.SHORT, "C1")));
        cases.addAll(Collections.nCopies(16, met(Code.SHORT, "C2")));
        List<Suspicion> common = List.of(
                Suspicion.unseen(Code.SHORT, "C1", 1),
                Suspicion.unseen(Code.SHORT, "C2", 1),
                Suspicion.unseen(Code.OPEN, "F1", 2));
        List<Suspicion> then = new Experience(cases).temper(common);
        assertThat(prior(then, Code.SHORT, "C1")).isGreaterThan(1.2 * prior(then, Code.SHORT, "C2"));
    }

    @Test
    void whatWasDoneIsTold() {
        Experience three = new Experience(List.of(met(Code.SHORT, "C1"), met(Code.OPEN, "F1"), met(Code.SHORT, "C1")));
        List<Tempered> told = three.told(ALL);
        assertThat(told).extracting(Tempered::target).containsExactly("C1", "F1");
        assertThat(told.get(0).cases()).isEqualTo(2);
        assertThat(told.get(0).of()).isEqualTo(3);
        assertThat(told.get(0).times()).isGreaterThan(1);
    }

    @Test
    void aWeightIsAShare() {
        assertThatThrownBy(() -> new Case(Optional.empty(), "C1", 1.5)).hasMessageContaining("from 0 to 1");
    }
}
