package ohmoscope.web.live;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.Observation.WarmthMeans;
import ohmoscope.web.live.LiveEye.Means;
import org.junit.jupiter.api.Test;

class LiveEyeTest {
    private final LiveEye eye = new LiveEye(Means.FROST);

    private void mark(String ref, double seconds) {
        eye.mark(Optional.of(ref).filter(r -> !r.isEmpty()), OptionalDouble.of(seconds));
    }

    @Test
    void timesComeFirstAndNamesAfterInTheSameOrder() {
        mark("", 3.2);
        mark("", 4.9);
        mark("C7", 8);
        mark("C9", 9);
        mark("C11", 10);
        assertThat(eye.state().marks()).containsExactly("3.2 s: C7", "4.9 s: C9", "10.0 s: C11");
        assertThat(eye.first(4).orElseThrow().ref()).contains("C7");
        assertThat(eye.first(4).orElseThrow().by()).contains(WarmthMeans.LIQUID);
    }

    @Test
    void whatHasNoNameIsNotKept() {
        assertThat(eye.first(1)).isEmpty();
        mark("", 3.2);
        assertThat(eye.first(1)).isEmpty();
    }

    /** After the key was let go only names are said, no times. */
    @Test
    void withoutCurrentNothingNewShows() {
        eye.mark(Optional.of("C7"), OptionalDouble.empty());
        assertThat(eye.state().marks()).isEmpty();
        mark("", 2);
        eye.mark(Optional.of("C7"), OptionalDouble.empty());
        assertThat(eye.state().marks()).containsExactly("2.0 s: C7");
    }

    @Test
    void eachMeansHasItsGuideAndNothingElseIsOne() {
        for (Means means : Means.values()) {
            assertThat(new LiveEye(means).state().guide()).isNotBlank();
        }
        assertThatThrownBy(() -> Means.of("candle")).isInstanceOf(InvalidMember.class);
    }
}
