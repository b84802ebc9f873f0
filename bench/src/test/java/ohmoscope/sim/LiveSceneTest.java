package ohmoscope.sim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Map;
import java.util.Optional;
import java.util.Set;
import ohmoscope.bench.demo.DemoBoards;
import ohmoscope.bench.standin.StandInBench;
import ohmoscope.bench.standin.StandInBoard;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.imaging.Homography;
import ohmoscope.core.imaging.Registration;
import ohmoscope.core.imaging.WarmWatch;
import org.junit.jupiter.api.Test;

/** The live scene, and what watches it: the heat goes on while current flows, and the watch sees where. */
class LiveSceneTest {
    private static final Board BOARD = DemoBoards.beck();
    private static final String FAULTY = "C68";
    private static final String RAIL = StandInBoard.railOf(BOARD, FAULTY);
    private static final double FPS = 9;
    private static final double COLD_S = 2;

    private static LiveScene scene(double shakePx, long seed) {
        Part part = BOARD.part(FAULTY).orElseThrow();
        return new LiveScene(
                BOARD,
                Map.of(FAULTY, 0.1),
                StandInBench.padFor(BOARD, RAIL, Set.of(FAULTY)),
                RAIL,
                RAIL,
                new BenchSetup.View(part.side(), Optional.empty()),
                new BenchSetup.Camera(160, 120, FPS, 0, 0.07, 0.3, 1, shakePx, 0.3),
                0.05,
                seed);
    }

    private static WarmWatch watch(LiveScene scene) {
        return new WarmWatch(scene.camera().width(), scene.camera().height(), LiveScene.KELVIN_PER_COUNT);
    }

    @Test
    void whatWarmsIsSeenWithinASecondOfBeingDetectable() {
        LiveScene scene = scene(0.03, 5);
        WarmWatch watch = watch(scene);
        Homography map = Registration.fit(scene.clickedPairs()).homography();
        Part part = BOARD.part(FAULTY).orElseThrow();
        double seenAt = Double.NaN;
        for (int f = 0; f < 90; f++) {
            double t = f / FPS;
            if (f == (int) (COLD_S * FPS)) {
                // A quarter of a watt in a small part.
                scene.flows(1.6, t);
            }
            WarmWatch.Seen seen = watch.next(scene.frame(t), t, t >= COLD_S);
            if (seen.warming() && Double.isNaN(seenAt)) {
                seenAt = t - COLD_S;
                assertThat(Math.hypot(
                                map.xMm(seen.xPx(), seen.yPx()) - part.xMm(),
                                map.yMm(seen.xPx(), seen.yPx()) - part.yMm()))
                        .isLessThan(1.5);
            }
        }
        assertThat(seenAt).isLessThan(1.5);
    }

    @Test
    void itCoolsWhenTheCurrentEnds() {
        LiveScene scene = scene(0, 5);
        WarmWatch watch = watch(scene);
        double hottest = 0;
        double last = 0;
        for (int f = 0; f < 200; f++) {
            double t = f / FPS;
            boolean on = t >= COLD_S && t < COLD_S + 6;
            if (f == (int) (COLD_S * FPS)) {
                scene.flows(2, t);
            } else if (f == (int) ((COLD_S + 6) * FPS)) {
                scene.flows(0, t);
            }
            WarmWatch.Seen seen = watch.next(scene.frame(t), t, on);
            last = seen.repeated() ? last : seen.riseK();
            hottest = Math.max(hottest, last);
        }
        assertThat(hottest).isGreaterThan(0.4);
        assertThat(last).isLessThan(0.5 * hottest);
    }

    /** Ten minutes of a shaken camera that drifts and re-zeroes itself, power on, nothing warming. */
    @Test
    void nothingIsCalledWarmWhereNothingWarms() {
        LiveScene scene = scene(0.3, 11);
        WarmWatch watch = watch(scene);
        int alarms = 0;
        boolean before = false;
        for (int f = 0; f < 600 * FPS / 4; f++) {
            double t = f / FPS;
            WarmWatch.Seen seen = watch.next(scene.frame(t), t, t >= COLD_S);
            alarms += seen.warming() && !before ? 1 : 0;
            before = seen.warming();
        }
        assertThat(alarms).isZero();
    }

    @Test
    void withoutTheFaultItStaysCold() {
        LiveScene scene = scene(0, 5);
        scene.flows(2, 0);
        char[] cold = scene.frame(0.1);
        scene.without(Set.of(FAULTY));
        char[] later = scene.frame(20);
        double most = 0;
        for (int i = 0; i < cold.length; i++) {
            most = Math.max(most, (later[i] - cold[i]) * LiveScene.KELVIN_PER_COUNT);
        }
        // The lead's own pad warms a little; nothing else does.
        assertThat(most).isCloseTo(0.4, within(1.6));
    }
}
