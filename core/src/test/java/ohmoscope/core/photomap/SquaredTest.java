package ohmoscope.core.photomap;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.PointMm;
import org.junit.jupiter.api.Test;

class SquaredTest {
    private static final int W = 3000;
    private static final int H = 2200;

    /** A pinhole over a board of 70 × 45 mm, leaning two ways, through a bowing lens. */
    private static PointPx seen(double x, double y, double tiltDeg, double pitchDeg, double bow) {
        double a = Math.toRadians(tiltDeg);
        double b = Math.toRadians(pitchDeg);
        double dx = x - 35;
        double dy = y - 22.5;
        double cx = dx * Math.cos(a);
        double cz = dx * Math.sin(a);
        double cy = dy * Math.cos(b) - cz * Math.sin(b);
        cz = dy * Math.sin(b) + cz * Math.cos(b);
        double depth = 120 + cz;
        double f = 2900;
        return new Lens(W, H, bow).bowed((W - 1) / 2.0 + f * cx / depth, (H - 1) / 2.0 - f * cy / depth);
    }

    private static List<PointPx> corners(double tilt, double pitch, double bow) {
        return List.of(
                seen(0, 45, tilt, pitch, bow),
                seen(70, 45, tilt, pitch, bow),
                seen(70, 0, tilt, pitch, bow),
                seen(0, 0, tilt, pitch, bow));
    }

    @Test
    void cornersSquareUpALeaningPhotographToAThousandthOfAMillimetre() {
        Squared.Laid laid = new Squared(new Lens(W, H, 0.04), corners(9, -13, 0.04), 70, 45, Squared.Nudge.NONE).laid();
        Random random = new Random(3);
        for (int i = 0; i < 200; i++) {
            double x = 70 * random.nextDouble();
            double y = 45 * random.nextDouble();
            PointPx px = seen(x, y, 9, -13, 0.04);
            PointMm mm = laid.mm(px.xPx(), px.yPx());
            assertEquals(x, mm.xMm(), 1e-3);
            assertEquals(y, mm.yMm(), 1e-3);
            PointPx back = laid.px(x, y);
            assertEquals(px.xPx(), back.xPx(), 1e-2);
            assertEquals(px.yPx(), back.yPx(), 1e-2);
        }
    }

    @Test
    void aRulerOnTheBoardGivesBothItsSides() {
        for (double[] lean : new double[][] {{0, 0}, {12, 8}, {-20, 6}, {15, 0.2}}) {
            PointPx from = seen(10, 5, lean[0], lean[1], 0);
            PointPx to = seen(40, 5, lean[0], lean[1], 0);
            Squared squared = Squared.byLength(new Lens(W, H, 0), corners(lean[0], lean[1], 0), from, to, 30);
            // The camera of this test looks through the picture's middle with a usual focal length.
            assertEquals(70, squared.widthMm(), 70 * 0.015, "lean " + lean[0]);
            assertEquals(45, squared.heightMm(), 45 * 0.015, "lean " + lean[0]);
        }
    }

    @Test
    void clicksOnTheEdgesTellTheLens() {
        List<PointPx> corners = corners(3, 2, 0.08);
        List<PointPx> edges = List.of(
                seen(35, 45, 3, 2, 0.08), seen(70, 22, 3, 2, 0.08), seen(35, 0, 3, 2, 0.08), seen(0, 22, 3, 2, 0.08));
        assertEquals(0.08, Lens.fitted(W, H, corners, edges).bow(), 1e-3);
    }

    @Test
    void twoHolesBringTheBottomUnderTheTop() {
        Squared bottom = new Squared(new Lens(W, H, 0), corners(0, 0, 0), 70, 45, new Squared.Nudge(0.3, -0.2, 0.4));
        List<PointMm> pins = new ArrayList<>();
        List<PointMm> home = List.of(new PointMm(4, 4), new PointMm(66, 41));
        // Where the bottom's map has them: turned by 1.5° and shifted.
        double a = Math.toRadians(1.5);
        for (PointMm p : home) {
            pins.add(new PointMm(
                    35 + Math.cos(a) * (p.xMm() - 35) - Math.sin(a) * (p.yMm() - 22.5) + 0.8,
                    22.5 + Math.sin(a) * (p.xMm() - 35) + Math.cos(a) * (p.yMm() - 22.5) - 0.6));
        }
        Squared aligned = bottom.aligned(pins, home);
        for (int i = 0; i < 2; i++) {
            PointPx px = bottom.laid().px(pins.get(i).xMm(), pins.get(i).yMm());
            PointMm mm = aligned.laid().mm(px.xPx(), px.yPx());
            assertEquals(home.get(i).xMm(), mm.xMm(), 1e-6);
            assertEquals(home.get(i).yMm(), mm.yMm(), 1e-6);
        }
        InvalidMember close = assertThrows(
                InvalidMember.class, () -> bottom.aligned(List.of(new PointMm(1, 1), new PointMm(1.2, 1)), home));
        assertEquals("holes", close.member());
    }

    @Test
    void cornersOnOneLineAreRefused() {
        Squared flat = new Squared(
                new Lens(W, H, 0),
                List.of(new PointPx(10, 10), new PointPx(20, 10), new PointPx(30, 10), new PointPx(40, 10)),
                70,
                45,
                Squared.Nudge.NONE);
        assertEquals("corners", assertThrows(InvalidMember.class, flat::laid).member());
    }
}
