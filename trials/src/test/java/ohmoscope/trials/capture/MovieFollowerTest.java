package ohmoscope.trials.capture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.util.List;
import java.util.OptionalDouble;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.Progress;
import ohmoscope.core.locate.Suspect;
import ohmoscope.core.locate.search.Locator;
import ohmoscope.core.locate.search.MovieFollower;
import ohmoscope.sim.BenchSimulator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Hunts whose movie is looked into while it grows, against the stored movie's answer. */
class MovieFollowerTest {
    private static final double EVERY_S = 2;
    /** The last look begins about so long before the movie's end: a second's glow, and the look before that. */
    private static final double LAST_S = 1.5;

    @ParameterizedTest
    @EnumSource(
            value = TrialKind.class,
            names = {"FAR_SIDE", "HANDHELD"})
    void theLastLookSaysWhatTheStoredMovieSays(TrialKind kind) throws Exception {
        LocateInput whole = hunt(kind);
        MovieFollower follower = new MovieFollower();
        grow(follower, whole);
        same(follower.conclude(whole, Progress.SILENT), new Locator().locate(whole, Progress.SILENT));
    }

    /** With another movie besides, the first round is made anew: what was found in one alone is not believed of both. */
    @Test
    void anEarlierMovieIsWeighedBesideIt() throws Exception {
        LocateInput whole = hunt(TrialKind.BANK);
        Capture once = whole.captures().get(0);
        LocateInput both =
                with(whole, List.of(called("earlier", once, once.spec().frameCount()), once), Double.POSITIVE_INFINITY);
        MovieFollower follower = new MovieFollower();
        follower.know(both.captures().get(0));
        grow(follower, whole);
        same(follower.conclude(both, Progress.SILENT), new Locator().locate(both, Progress.SILENT));
    }

    private static LocateInput hunt(TrialKind kind) throws Exception {
        return BenchSimulator.run(Trials.draw(kind, 731, OptionalDouble.empty()))
                .bundle()
                .locateInput();
    }

    private static void grow(MovieFollower follower, LocateInput whole) throws IOException {
        Capture capture = whole.captures().get(0);
        List<Double> timesS = capture.spec().timesS();
        double last = timesS.get(timesS.size() - 1);
        for (double now = last - LAST_S - 2 * EVERY_S; now < last; now += EVERY_S) {
            double untilS = now;
            int frames = (int) timesS.stream().filter(s -> s <= untilS).count();
            if (frames > 8) {
                follower.look(
                        with(whole, List.of(called(capture.spec().id(), capture, frames)), untilS), Progress.SILENT);
            }
        }
    }

    /** The first frames of a capture, under a name. */
    private static Capture called(String id, Capture capture, int frames) {
        CaptureSpec spec = capture.spec();
        CaptureSpec part = new CaptureSpec(
                id,
                spec.side(),
                spec.width(),
                spec.height(),
                spec.kelvinPerCount(),
                spec.kelvinAtZero(),
                spec.netdK(),
                spec.emissivity(),
                spec.registration(),
                spec.timesS().subList(0, frames));
        return new Capture(part, capture.frames());
    }

    private static LocateInput with(LocateInput whole, List<Capture> captures, double untilS) {
        return new LocateInput(
                whole.board(),
                whole.rail(),
                whole.injection(),
                new SupplyLog(whole.supplyLog().rows().stream()
                        .filter(row -> row.tS() <= untilS)
                        .toList()),
                captures,
                whole.observations(),
                whole.leaning());
    }

    private static void same(LocateResult followed, LocateResult stored) {
        assertThat(followed.verdict()).isEqualTo(stored.verdict());
        assertThat(followed.noneProbability()).isCloseTo(stored.noneProbability(), within(0.01));
        assertThat(followed.elsewhereProbability()).isCloseTo(stored.elsewhereProbability(), within(0.01));
        for (Suspect suspect : stored.suspects()) {
            String ref = suspect.part().ref();
            assertThat(followed.probability(ref)).as(ref).isCloseTo(suspect.probability(), within(0.01));
        }
    }
}
