package ohmoscope.core.imaging;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.IntRange;
import ohmoscope.core.Fixtures;
import org.junit.jupiter.api.Test;

class RegistrationTest {
    /** Places of a tilted, turned camera; {@code mirror} −1 for the bottom side. */
    private static List<RegistrationPair> seen(double turnDeg, double tilt, double mirror, double noisePx, long seed) {
        Random random = new Random(seed);
        double a = Math.toRadians(turnDeg);
        List<RegistrationPair> pairs = new ArrayList<>();
        double[][] places = {{0, 0}, {60, 0}, {60, 40}, {0, 40}, {21, 13}, {44, 29}};
        for (double[] mm : places) {
            double x = mirror * (mm[0] - 30);
            double y = -(mm[1] - 20);
            double u = 2.4 * (x * Math.cos(a) - y * Math.sin(a));
            double v = 2.4 * (x * Math.sin(a) + y * Math.cos(a));
            double w = 1 + tilt * u;
            pairs.add(new RegistrationPair(
                    80 + u / w + noisePx * random.nextGaussian(),
                    60 + v / w + noisePx * random.nextGaussian(),
                    mm[0],
                    mm[1]));
        }
        return pairs;
    }

    @Property(tries = 60)
    void mapsThereAndBack(
            @ForAll @DoubleRange(min = -40, max = 40) double turn,
            @ForAll @DoubleRange(min = 0, max = 60) double xMm,
            @ForAll @DoubleRange(min = 0, max = 40) double yMm,
            @ForAll @IntRange(min = 0, max = 1) int bottom) {
        Homography map =
                Registration.fit(seen(turn, 0.0003, bottom == 1 ? -1 : 1, 0, 1)).homography();
        double px = map.xPx(xMm, yMm);
        double py = map.yPx(xMm, yMm);
        assertThat(map.xMm(px, py)).isCloseTo(xMm, within(1e-8));
        assertThat(map.mm(px, py).yMm()).isCloseTo(yMm, within(1e-8));
    }

    @Test
    void cleanPairsLeaveNoResidual() {
        Registration registration = Registration.fit(seen(12, 0, 1, 0, 1));
        assertThat(registration.residualsMm()).allSatisfy(r -> assertThat(r).isLessThan(1e-6));
        assertThat(registration.poor()).isFalse();
        assertThat(registration.leftOut()).isEmpty();
        assertThat(registration.homography().pitchMm(80, 60)).isCloseTo(1 / 2.4, within(1e-6));
    }

    @Test
    void theBottomSideIsMirrored() {
        Homography map = Registration.fit(seen(0, 0, -1, 0, 1)).homography();
        assertThat(map.xPx(60, 20)).isLessThan(map.xPx(0, 20));
        assertThat(map.yPx(30, 40)).isLessThan(map.yPx(30, 0));
    }

    @Test
    void aPairFarOffIsLeftOut() {
        List<RegistrationPair> pairs = new ArrayList<>(seen(5, 0, 1, 0.2, 3));
        RegistrationPair wrong = pairs.get(4);
        pairs.set(4, new RegistrationPair(wrong.xPx() + 25, wrong.yPx() - 18, wrong.xMm(), wrong.yMm()));
        Registration registration = Registration.fit(pairs);
        assertThat(registration.leftOut()).hasValue(4);
        assertThat(registration.poor()).isTrue();
        assertThat(registration.residualsMm().get(4)).isGreaterThan(8);
        assertThat(registration.homography().xPx(30, 20)).isCloseTo(80, within(0.6));
    }

    @Test
    void carelessClicksAreCalledPoor() {
        assertThat(Registration.fit(seen(5, 0, 1, 6, 4)).poor()).isTrue();
        Registration careful = Registration.fit(seen(5, 0, 1, 0.5, 9));
        assertThat(careful.poor()).isFalse();
        assertThat(careful.sigmaMm()).isBetween(0.05, 0.4);
    }

    /** Of four pairs one that is plainly wrong looks much like a tilt of the camera: mostly the picture is asked. */
    @Test
    void oneWrongPairOfFourIsMostlyDoubtedAndCarefulOnesNever() {
        int doubted = 0;
        for (long seed = 0; seed < 20; seed++) {
            List<RegistrationPair> careful = seen(8, 0, 1, 0.5, seed).subList(0, 4);
            assertThat(Registration.fit(careful).doubtful()).isFalse();
            List<RegistrationPair> wrong = new ArrayList<>(careful);
            RegistrationPair pair = wrong.get(2);
            wrong.set(2, new RegistrationPair(pair.xPx() + 14, pair.yPx() + 4, pair.xMm(), pair.yMm()));
            doubted += Registration.fit(wrong).doubtful() ? 1 : 0;
            wrong.remove(2);
            Homography rest = Registration.straightDown(wrong).orElseThrow();
            assertThat(rest.xPx(30, 20)).isCloseTo(80, within(3.0));
        }
        assertThat(doubted).isGreaterThanOrEqualTo(17);
    }

    @Test
    void wherePairsAgreeWithoutTheOneThatIsLeftOutThePictureNeedNotBeAsked() {
        List<RegistrationPair> pairs = new ArrayList<>(seen(5, 0, 1, 0.2, 3));
        RegistrationPair wrong = pairs.get(4);
        pairs.set(4, new RegistrationPair(wrong.xPx() + 25, wrong.yPx() - 18, wrong.xMm(), wrong.yMm()));
        Registration registration = Registration.fit(pairs);
        assertThat(registration.poor()).isTrue();
        assertThat(registration.doubtful()).isFalse();
        assertThat(Registration.straightDown(pairs.subList(0, 2))).isEmpty();
    }

    @Test
    void aStrongTiltOverrulesThePrior() {
        Homography map = Registration.fit(seen(0, 0.0022, 1, 0, 1)).homography();
        List<RegistrationPair> pairs = seen(0, 0.0022, 1, 0, 1);
        for (RegistrationPair pair : pairs) {
            assertThat(map.xPx(pair.xMm(), pair.yMm())).isCloseTo(pair.xPx(), within(0.3));
        }
    }

    @Test
    void shrinkingTheTiltHelpsWhenClicksAreRough() {
        // Four corners fix eight parameters exactly; with the prior the middle is known better than one click.
        double with = 0;
        for (long seed = 0; seed < 40; seed++) {
            List<RegistrationPair> corners = seen(8, 0, 1, 0.7, seed).subList(0, 4);
            Homography map = Registration.fit(corners).homography();
            with += Math.hypot(map.xPx(30, 20) - 80, map.yPx(30, 20) - 60) / 40;
        }
        assertThat(with).isLessThan(0.7);
    }

    @Test
    void refusesTooFewPairsAndPairsOnOneLine() {
        List<RegistrationPair> pairs = seen(0, 0, 1, 0, 1);
        assertThatThrownBy(() -> Registration.fit(pairs.subList(0, 3)))
                .hasMessageContaining("registration needs at least four pairs, has 3");
        List<RegistrationPair> line = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
            line.add(new RegistrationPair(10 * i, 5 * i, 3 * i, 2 * i));
        }
        assertThatThrownBy(() -> Registration.fit(line)).hasMessageContaining("on one line");
        assertThatThrownBy(() -> Fixtures.capture(80, 60, 3, line)).hasMessageContaining("registration");
    }

    @Test
    void aMapFoundOtherwiseKeepsTheClicksResiduals() {
        List<RegistrationPair> clicked = Fixtures.corners(40, 30, 4);
        Registration by = Registration.fit(clicked);
        List<RegistrationPair> moved = clicked.stream()
                .map(p -> new RegistrationPair(p.xPx() + 2, p.yPx() - 1, p.xMm(), p.yMm()))
                .toList();
        Registration mapped = by.mapped(moved, 0.7);
        assertThat(mapped.homography().xPx(20, 15) - by.homography().xPx(20, 15))
                .isCloseTo(2, within(1e-6));
        assertThat(mapped.residualsMm()).isEqualTo(by.residualsMm());
        assertThat(mapped.sigmaMm()).isCloseTo(0.7 / 4, within(0.01));
        assertThat(mapped.poor()).isEqualTo(by.poor());
    }
}
