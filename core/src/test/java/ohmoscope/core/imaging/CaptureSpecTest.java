package ohmoscope.core.imaging;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.OptionalDouble;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Side;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class CaptureSpecTest {
    private static final List<RegistrationPair> PAIRS = Fixtures.corners(40, 30, 2);

    private static CaptureSpec spec(
            String id, int width, int height, double perCount, double atZero, OptionalDouble netd, List<Double> times) {
        return new CaptureSpec(
                id, Side.TOP, width, height, perCount, atZero, netd, OptionalDouble.of(0.95), PAIRS, times);
    }

    private static CaptureSpec named(String id) {
        return spec(id, 80, 60, 0.01, 0, OptionalDouble.empty(), List.of(0.0));
    }

    @Test
    void countsBecomeKelvin() {
        CaptureSpec spec = spec("a", 80, 60, 0.02, 250, OptionalDouble.empty(), List.of(0.0, 0.1));
        assertThat(spec.kelvin(1000)).isCloseTo(270, within(1e-9));
        assertThat(spec.pixels()).isEqualTo(4800);
        assertThat(spec.frameCount()).isEqualTo(2);
        assertThat(spec.times()).containsExactly(0.0, 0.1);
    }

    @ParameterizedTest
    @ValueSource(strings = {"top-1", "A", "close.up_2", "0"})
    void namesThatMakeGoodFolders(String id) {
        assertThat(named(id).id()).isEqualTo(id);
    }

    @ParameterizedTest
    @ValueSource(strings = {"../x", "a/b", " ", "-a", ".hidden", "a b", "ü"})
    void namesThatWouldNot(String id) {
        assertThatThrownBy(() -> named(id)).isInstanceOf(InvalidMember.class).hasMessageStartingWith("id");
    }

    @ParameterizedTest
    @CsvSource({"4,60,width", "80,5000,height"})
    void sizesOutsideAnyCamera(int width, int height, String member) {
        assertThatThrownBy(() -> spec("a", width, height, 0.01, 0, OptionalDouble.empty(), List.of(0.0)))
                .hasMessageStartingWith(member);
    }

    @Test
    void scalesOutsideAnyBoard() {
        assertThatThrownBy(() -> spec("a", 80, 60, 0, 0, OptionalDouble.empty(), List.of(0.0)))
                .hasMessageStartingWith("kelvin_per_count");
        assertThatThrownBy(() -> spec("a", 80, 60, Double.NaN, 0, OptionalDouble.empty(), List.of(0.0)))
                .hasMessageStartingWith("kelvin_per_count");
        assertThatThrownBy(() -> spec("a", 80, 60, 0.01, 1e9, OptionalDouble.empty(), List.of(0.0)))
                .hasMessageStartingWith("kelvin_at_zero");
        assertThatThrownBy(() -> spec("a", 80, 60, 0.01, 0, OptionalDouble.of(-0.1), List.of(0.0)))
                .hasMessageStartingWith("netd_k");
    }

    @Test
    void timesMustBeThereAndNotFall() {
        assertThatThrownBy(() -> spec("a", 80, 60, 0.01, 0, OptionalDouble.empty(), List.of()))
                .hasMessageContaining("at least one frame");
        assertThatThrownBy(() -> spec("a", 80, 60, 0.01, 0, OptionalDouble.empty(), List.of(0.0, 0.2, 0.1)))
                .hasMessageContaining("t_s goes backwards at frame 2");
        assertThat(spec("a", 80, 60, 0.01, 0, OptionalDouble.empty(), List.of(0.0, 0.0))
                        .frameCount())
                .isEqualTo(2);
    }

    @Test
    void otherPairsMakeAnotherSpecWithTheSameRest() {
        List<RegistrationPair> moved = new ArrayList<>(PAIRS);
        moved.set(0, new RegistrationPair(3, 61, 0, 0));
        CaptureSpec before = named("a");
        CaptureSpec after = before.withRegistration(moved);
        assertThat(after.registration()).isEqualTo(moved);
        assertThat(after.withRegistration(PAIRS)).isEqualTo(before);
        moved.clear();
        assertThat(after.registration()).hasSize(4);
    }
}
