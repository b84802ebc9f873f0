package ohmoscope.core.locate.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;

class PlacesTest {
    /** The third is not counted. */
    private final Places places = new Places(new float[] {1, 5, 90}, new float[] {2, 3, 90}, 2);

    @Test
    void theNearestIsMeasuredToTheRectangleRoundThem() {
        assertThat(places.nearest2(3, 2.5)).isZero();
        assertThat(places.nearest2(-2, 2.5)).isCloseTo(9, within(1e-9));
        assertThat(places.nearest2(8, 7)).isCloseTo(25, within(1e-9));
    }

    @Test
    void squaresOfAllDistances() {
        float[] squares = {-1, -1, -1};
        places.squares(1, 3, squares);
        assertThat(squares).containsExactly(1, 16, -1);
    }
}
