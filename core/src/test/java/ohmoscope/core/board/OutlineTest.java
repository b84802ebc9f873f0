package ohmoscope.core.board;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import ohmoscope.core.Fixtures;
import org.junit.jupiter.api.Test;

class OutlineTest {
    @Test
    void refusesAnOutlineThatCrossesItself() {
        List<PointMm> bow = List.of(new PointMm(0, 0), new PointMm(10, 10), new PointMm(10, 0), new PointMm(0, 10));
        assertThatThrownBy(() -> new Outline(bow))
                .isInstanceOf(InvalidMember.class)
                .hasMessageContaining("outline_mm crosses or touches itself near x 5.0 mm, y 5.0 mm");
    }

    @Test
    void refusesTooFewCornersAndNoArea() {
        assertThatThrownBy(() -> new Outline(List.of(new PointMm(0, 0), new PointMm(1, 0))))
                .hasMessageContaining("at least three corners");
        List<PointMm> line = List.of(new PointMm(0, 0), new PointMm(1, 0), new PointMm(2, 0));
        assertThatThrownBy(() -> new Outline(line)).isInstanceOf(InvalidMember.class);
    }

    @Test
    void knowsInsideFromOutside() {
        Outline notched = new Outline(List.of(
                new PointMm(0, 0),
                new PointMm(20, 0),
                new PointMm(20, 10),
                new PointMm(10, 10),
                new PointMm(10, 5),
                new PointMm(0, 5)));
        Outline.Inside inside = notched.inside();
        assertThat(inside.test(5, 2)).isTrue();
        assertThat(inside.test(15, 8)).isTrue();
        assertThat(inside.test(5, 8)).isFalse();
        assertThat(inside.test(-1, 1)).isFalse();
        assertThat(notched.maxXMm()).isEqualTo(20);
        assertThat(notched.minYMm()).isZero();
        assertThat(Fixtures.rectangle(3, 4).maxYMm()).isEqualTo(4);
    }
}
