package ohmoscope.core.locate.capture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.locate.Grids;
import org.junit.jupiter.api.Test;

class BodyMaskTest {
    private static final int SIDE = 60;
    private static final double PITCH = 0.2;

    /** A body of 1.6 mm by 0.8 mm in the middle of 12 mm of board. */
    private final Part part = Fixtures.twoPin("C1", PartKind.CAPACITOR, 6, 6, "VBAT", "GND");

    private static Pixels pixels() {
        return Grids.of(SIDE, SIDE, PITCH, 0);
    }

    @Test
    void sharesAddUpToTheBodysArea() {
        for (double blur : new double[] {0.05, 0.3, 0.6}) {
            double sum = 0;
            for (int p = 0; p < SIDE * SIDE; p++) {
                sum += BodyMask.share(part, PITCH * (p % SIDE + 0.5), PITCH * (p / SIDE + 0.5), blur);
            }
            assertThat(sum * PITCH * PITCH).as("blur %s", blur).isCloseTo(1.6 * 0.8, within(0.03));
        }
    }

    @Test
    void theMiddleIsTheBodysAndFarOffIsNot() {
        assertThat(BodyMask.share(part, 6, 6, 0.1)).isCloseTo(1, within(1e-3));
        assertThat(BodyMask.share(part, 6.8, 6, 0.1)).isCloseTo(0.5, within(1e-3));
        assertThat(BodyMask.share(part, 6.8, 6.4, 0.1)).isCloseTo(0.25, within(1e-3));
        assertThat(BodyMask.share(part, 9, 6, 0.1)).isZero();
    }

    @Test
    void aMaskHoldsThePixelsThatSeeTheBody() {
        BodyMask mask = BodyMask.of(part, 0, 0, pixels(), 0.1);
        assertThat(mask.pixels()).hasSameSizeAs(mask.shares());
        // 8 by 4 pixels lie within, and a rim of one about them sees some of it.
        assertThat(mask.pixels().length).isBetween(32, 60);
        double sum = 0;
        for (int i = 0; i < mask.pixels().length; i++) {
            int p = mask.pixels()[i];
            assertThat(mask.shares()[i]).isBetween(0.08f, 1f);
            assertThat((double) mask.shares()[i])
                    .isCloseTo(
                            BodyMask.share(part, PITCH * (p % SIDE + 0.5), PITCH * (p / SIDE + 0.5), 0.1),
                            within(1e-4));
            sum += mask.shares()[i];
        }
        assertThat(sum * PITCH * PITCH).isCloseTo(1.6 * 0.8, within(0.1));
    }

    @Test
    void aBodyOutOfThePictureIsNotSeen() {
        Part elsewhere = Fixtures.twoPin("C2", PartKind.CAPACITOR, 40, 6, "VBAT", "GND");
        assertThat(BodyMask.of(elsewhere, 0, 0, pixels(), 0.1).pixels()).isEmpty();
    }

    @Test
    void aBodyIsLookedForBesideItsPlaceAsIfItStoodThere() {
        Part beside = Fixtures.twoPin("C1", PartKind.CAPACITOR, 6.4, 5.8, "VBAT", "GND");
        BodyMask there = BodyMask.of(beside, 0, 0, pixels(), 0.1);
        BodyMask carried = BodyMask.of(part, 0.4, -0.2, pixels(), 0.1);
        assertThat(carried.pixels()).containsExactly(there.pixels());
        for (int i = 0; i < there.shares().length; i++) {
            assertThat(carried.shares()[i]).isCloseTo(there.shares()[i], within(1e-4f));
        }
    }
}
