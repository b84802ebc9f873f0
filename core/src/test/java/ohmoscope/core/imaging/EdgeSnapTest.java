package ohmoscope.core.imaging;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;
import org.junit.jupiter.api.Test;

class EdgeSnapTest {
    private static final int W = 184;
    private static final int H = 144;
    private final Board board = Fixtures.board();
    private final List<RegistrationPair> right = Fixtures.corners(40, 30, 4.4);
    private final Homography truth = Registration.fit(right).homography();

    /** A board that mirrors the room a little less than the mat, with bodies that mirror it more; noise, and a slope. */
    private float[] picture(double contrastK, long seed) {
        Random random = new Random(seed);
        float[] picture = new float[W * H];
        for (int p = 0; p < picture.length; p++) {
            double x = truth.xMm(p % W, p / W);
            double y = truth.yMm(p % W, p / W);
            boolean on = x > 0 && y > 0 && x < 40 && y < 30;
            double k = 295 + 0.002 * (p % W) + (on ? contrastK : 0);
            for (Part part : board.parts()) {
                if (part.side() == Side.TOP && part.covers(x, y, 0)) {
                    k -= 1.4 * contrastK;
                }
            }
            picture[p] = (float) (k + 0.05 * random.nextGaussian());
        }
        return Blur.gaussian(picture, W, H, 0.8);
    }

    private List<RegistrationPair> off(double px, long seed) {
        Random random = new Random(seed);
        List<RegistrationPair> pairs = new ArrayList<>();
        double dx = px * random.nextGaussian();
        double dy = px * random.nextGaussian();
        for (RegistrationPair pair : right) {
            pairs.add(new RegistrationPair(
                    pair.xPx() + dx + 0.4 * px * random.nextGaussian(),
                    pair.yPx() + dy + 0.4 * px * random.nextGaussian(),
                    pair.xMm(),
                    pair.yMm()));
        }
        return pairs;
    }

    private double errorPx(Homography map) {
        double sum = 0;
        int n = 0;
        for (Part part : board.parts()) {
            sum += Math.hypot(
                    map.xPx(part.xMm(), part.yMm()) - truth.xPx(part.xMm(), part.yMm()),
                    map.yPx(part.xMm(), part.yMm()) - truth.yPx(part.xMm(), part.yMm()));
            n++;
        }
        return sum / n;
    }

    private EdgeSnap.Snapped snapped(float[] picture, List<RegistrationPair> pairs) {
        return EdgeSnap.from(picture, W, H, board, Side.TOP, pairs).snap(pairs);
    }

    @Test
    void pairsThatAreOffAreMovedToWhereTheBoardIs() {
        double mean = 0;
        for (long seed = 1; seed <= 6; seed++) {
            List<RegistrationPair> pairs = off(3, seed);
            EdgeSnap.Snapped snapped = snapped(picture(0.5, seed), pairs);
            assertThat(snapped.usable()).as("seed %s", seed).isTrue();
            double before = errorPx(Registration.fit(pairs).homography());
            double after = errorPx(Registration.fit(snapped.pairs()).homography());
            assertThat(after).as("seed %s, before %s", seed, before).isLessThan(1.1);
            mean += after / 6;
        }
        assertThat(mean).isLessThan(0.7);
    }

    @Test
    void goodPairsStayWhereTheyAre() {
        EdgeSnap.Snapped snapped = snapped(picture(0.5, 11), right);
        assertThat(snapped.usable()).isTrue();
        assertThat(snapped.movedPx()).isLessThan(1);
    }

    @Test
    void aPictureWithoutEdgesIsNotGoneBy() {
        int usable = 0;
        for (long seed = 1; seed <= 10; seed++) {
            usable += snapped(picture(0, 30 + seed), off(2, seed)).usable() ? 1 : 0;
        }
        assertThat(usable).isLessThanOrEqualTo(2);
    }

    /** Pairs that agree among themselves, clicked in a frame that lay elsewhere. */
    private List<RegistrationPair> shifted(double dx, double dy) {
        return right.stream()
                .map(p -> new RegistrationPair(p.xPx() + dx, p.yPx() + dy, p.xMm(), p.yMm()))
                .toList();
    }

    @Test
    void pairsClickedInAnotherFrameSlideBack() {
        for (double[] by : new double[][] {{1.8, -1.2}, {-2.1, 0.4}, {0.3, 2.2}}) {
            List<RegistrationPair> pairs = shifted(by[0], by[1]);
            EdgeSnap.Snapped slid =
                    EdgeSnap.from(picture(0.5, 4), W, H, board, Side.TOP, pairs).slide(pairs, 3.5, 0);
            assertThat(slid.usable()).isTrue();
            assertThat(errorPx(Registration.fit(slid.pairs()).homography())).isLessThan(0.5);
        }
    }

    @Test
    void pairsClickedWhileTheCameraWasTurnedAreTurnedBack() {
        for (double turn : new double[] {0.012, -0.02}) {
            Motion away = new Motion(1.2, -0.7, turn);
            List<RegistrationPair> pairs = right.stream()
                    .map(p -> new RegistrationPair(
                            away.xOf(p.xPx(), p.yPx(), H), away.yOf(p.xPx(), p.yPx(), W), p.xMm(), p.yMm()))
                    .toList();
            EdgeSnap edges = EdgeSnap.from(picture(0.5, 4), W, H, board, Side.TOP, pairs);
            double slid =
                    errorPx(Registration.fit(edges.slide(pairs, 3.5, 0).pairs()).homography());
            double turned = errorPx(
                    Registration.fit(edges.slide(pairs, 3.5, 0.03).pairs()).homography());
            assertThat(turned).isLessThan(0.35).isLessThan(0.6 * slid);
        }
    }

    @Test
    void slidingNeitherTurnsNorStrains() {
        List<RegistrationPair> pairs = off(0.5, 5);
        EdgeSnap.Snapped slid =
                EdgeSnap.from(picture(0.5, 5), W, H, board, Side.TOP, pairs).slide(pairs, 3, 0);
        Homography before = Registration.fit(pairs).homography();
        Homography after = Registration.fit(slid.pairs()).homography();
        double dx = after.xPx(20, 15) - before.xPx(20, 15);
        double dy = after.yPx(20, 15) - before.yPx(20, 15);
        assertThat(Math.hypot(dx, dy)).isLessThanOrEqualTo(3.01);
        for (double[] mm : new double[][] {{0, 0}, {40, 0}, {40, 30}, {0, 30}}) {
            assertThat(after.xPx(mm[0], mm[1]) - before.xPx(mm[0], mm[1])).isCloseTo(dx, within(0.05));
            assertThat(after.yPx(mm[0], mm[1]) - before.yPx(mm[0], mm[1])).isCloseTo(dy, within(0.05));
        }
    }
}
