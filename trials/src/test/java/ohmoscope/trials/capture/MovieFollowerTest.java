package ohmoscope.trials.capture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

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
import ohmoscope.sim.BenchSetup;
import ohmoscope.sim.BenchSimulator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Hunts whose movie is looked into while it grows, against the stored movie's answer. */
class MovieFollowerTest {
    /** The last search begins so long before the movie's end, and the last look that goes on from it. */
    private static final double SEARCHED_S = 1.6;

    private static final double FOLLOWED_S = 0.5;

    private static final double FRAMES_PER_SECOND = 25;
    private static final double AFTERGLOW_S = 1;

    @ParameterizedTest
    @EnumSource(
            value = TrialKind.class,
            names = {"PLAIN", "FAR_SIDE", "CHIP", "HANDHELD", "PULSED"})
    void theLastLookSaysWhatTheStoredMovieSays(TrialKind kind) throws Exception {
        LocateInput whole = hunt(kind);
        MovieFollower follower = new MovieFollower();
        follower.look(until(whole, SEARCHED_S), Progress.SILENT);
        follower.follow(until(whole, FOLLOWED_S), Progress.SILENT).orElseThrow();
        LocateResult last = follower.conclude(whole).orElseThrow();
        same(last, new Locator().locate(whole, Progress.SILENT));
    }

    @Test
    void anEarlierMovieIsWeighedBesideIt() throws Exception {
        LocateInput whole = hunt(TrialKind.BANK);
        Capture once = whole.captures().get(0);
        LocateInput both =
                with(whole, List.of(called("earlier", once, once.spec().frameCount()), once), Double.POSITIVE_INFINITY);
        MovieFollower follower = new MovieFollower();
        follower.know(both.captures().get(0));
        follower.look(until(whole, SEARCHED_S), Progress.SILENT);
        assertThat(follower.conclude(both))
                .as("what was found in one alone is not believed of both")
                .isEmpty();
        same(follower.look(both, Progress.SILENT), new Locator().locate(both, Progress.SILENT));
    }

    @Test
    void whereNobodyStandsOutNothingIsGoneOnFrom() throws Exception {
        LocateInput whole = hunt(TrialKind.NOTHING);
        MovieFollower follower = new MovieFollower();
        assertThat(follower.conclude(whole)).isEmpty();
        follower.look(until(whole, SEARCHED_S), Progress.SILENT);
        assertThat(follower.leads()).isFalse();
        assertThat(follower.follow(whole, Progress.SILENT)).isEmpty();
        assertThat(follower.conclude(whole)).isEmpty();
    }

    /** As a live bench takes it: many frames a second, and one second more than the current flows. */
    private static LocateInput hunt(TrialKind kind) throws Exception {
        BenchSetup drawn = Trials.draw(kind, 731, OptionalDouble.empty());
        return BenchSimulator.run(drawn.with(drawn.camera().live(FRAMES_PER_SECOND, AFTERGLOW_S)))
                .bundle()
                .locateInput();
    }

    /** The hunt so long before its movie's end. */
    private static LocateInput until(LocateInput whole, double beforeEndS) {
        Capture capture = whole.captures().get(0);
        List<Double> timesS = capture.spec().timesS();
        double untilS = timesS.get(timesS.size() - 1) - beforeEndS;
        int frames = (int) timesS.stream().filter(s -> s <= untilS).count();
        return with(whole, List.of(called(capture.spec().id(), capture, frames)), untilS);
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
