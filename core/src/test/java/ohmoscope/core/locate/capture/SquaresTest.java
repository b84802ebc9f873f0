package ohmoscope.core.locate.capture;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.stream.IntStream;
import ohmoscope.core.locate.Grids;
import org.junit.jupiter.api.Test;

class SquaresTest {
    private final Pixels pixels = Grids.of(6, 8, 1, 0);

    @Test
    void wholeSquaresHaveTheirMeans() {
        Squares squares = Squares.of(pixels, 2, false);
        assertThat(squares.count()).isEqualTo(12);
        float[] rows = new float[2 + pixels.count()];
        for (int p = 0; p < pixels.count(); p++) {
            rows[2 + p] = pixels.row()[p];
        }
        float[] means = squares.means(rows, 2);
        assertThat(means[0]).isEqualTo(0.5f);
        assertThat(means[11]).isEqualTo(4.5f);
    }

    @Test
    void aSquareOfWhichLessThanHalfIsThereDoesNotCount() {
        // The last column of squares is two pixels of three wide, the last row whole.
        assertThat(Squares.of(pixels, 3, false).count()).isEqualTo(6);
        // Two of five rows, three of five columns are too few.
        assertThat(Squares.of(pixels, 5, false).count()).isEqualTo(2);
    }

    @Test
    void bodiesAndBareBoardStayApart() {
        IntStream.range(0, 8).forEach(p -> pixels.patch()[p] = 4);
        Squares bodies = Squares.of(pixels, 1, true);
        assertThat(bodies.count()).isEqualTo(8);
        assertThat(bodies.of()[8]).isEqualTo(-1);
        Squares board = Squares.of(pixels, 2, false);
        assertThat(board.count()).isEqualTo(12);
        assertThat(board.pixels()[0]).isEqualTo(2);
        assertThat(board.of()[0]).isEqualTo(-1);
        assertThat(board.of()[8]).isZero();
    }
}
