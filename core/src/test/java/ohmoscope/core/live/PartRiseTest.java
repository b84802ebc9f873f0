package ohmoscope.core.live;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.List;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.imaging.Homography;
import ohmoscope.core.imaging.RegistrationPair;
import org.junit.jupiter.api.Test;

class PartRiseTest {
    private static final int WIDTH = 60;
    private static final int HEIGHT = 40;
    /** Half a millimetre a pixel, the board's y upwards. */
    private static final Homography MAP = Homography.through(List.of(
            new RegistrationPair(0, 39, 0, 0),
            new RegistrationPair(59, 39, 29.5, 0),
            new RegistrationPair(59, 0, 29.5, 19.5),
            new RegistrationPair(0, 0, 0, 19.5)));

    private final float[] rises = new float[WIDTH * HEIGHT];

    private static Part part(double xMm, double yMm) {
        return Part.of(
                "R1",
                PartKind.RESISTOR,
                Side.TOP,
                xMm,
                yMm,
                3.2,
                1.6,
                List.of(new Pin("1", "A", xMm - 1.4, yMm), new Pin("2", "B", xMm + 1.4, yMm)));
    }

    private void warm(Part part, float kelvin) {
        for (int p = 0; p < rises.length; p++) {
            if (part.covers(MAP.xMm(p % WIDTH, p / WIDTH), MAP.yMm(p % WIDTH, p / WIDTH), 0)) {
                rises[p] += kelvin;
            }
        }
    }

    @Test
    void theBodyIsToldAboveWhatSurroundsIt() {
        Part shunt = part(14, 10);
        Arrays.fill(rises, 0.4f);
        warm(shunt, 1.5f);

        assertThat(PartRise.of(rises, WIDTH, HEIGHT, MAP, shunt).orElseThrow()).isCloseTo(1.5, within(1e-5));
    }

    /** What warms beside it takes less than half of the ring. */
    @Test
    void aHotNeighbourIsNotTheSurroundings() {
        Part shunt = part(14, 10);
        warm(shunt, 1);
        warm(part(14, 12.6), 30);

        assertThat(PartRise.of(rises, WIDTH, HEIGHT, MAP, shunt).orElseThrow()).isCloseTo(1, within(0.05));
    }

    @Test
    void whatIsOutOfThePictureIsNotTold() {
        assertThat(PartRise.of(rises, WIDTH, HEIGHT, MAP, part(60, 10))).isEmpty();
    }

    @Test
    void pixelsThatAreNotKnownDoNotCount() {
        Part shunt = part(14, 10);
        Arrays.fill(rises, Float.NaN);

        assertThat(PartRise.of(rises, WIDTH, HEIGHT, MAP, shunt)).isEmpty();
    }
}
