package ohmoscope.trials.capture;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.List;
import ohmoscope.core.locate.LocateInput;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.core.locate.Progress;
import ohmoscope.core.locate.search.MovieFollower;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Hunts whose movie is looked into while it grows, against the stored movie's answer. */
class MovieFollowerTest {
    private static final double SEARCHED_S = 1.6;

    private static LiveTrial trial(TrialKind kind) {
        return LiveTrial.of(kind, 731, 160, 120);
    }

    @ParameterizedTest
    @EnumSource(
            value = TrialKind.class,
            names = {"PLAIN", "FAR_SIDE", "CHIP", "HANDHELD", "PULSED"})
    void theLastLookSaysWhatTheStoredMovieSays(TrialKind kind) throws IOException {
        LiveTrial.Outcome outcome = LiveTrial.of(kind, 503, 256, 192).run();
        assertThat(outcome.last()).isPresent();
        assertThat(outcome.last().get().verdict()).isEqualTo(outcome.stored().verdict());
        assertThat(outcome.apart()).isLessThan(0.01);
    }

    @Test
    void whatWasFoundInOneMovieAloneIsNotBelievedOfTwo() throws IOException {
        LiveTrial trial = trial(TrialKind.BANK);
        Capture once = trial.whole().captures().get(0);
        Capture earlier = trial.first(once.spec().frameCount(), "earlier");
        LocateInput both = LiveTrial.with(trial.whole(), List.of(earlier, once), Double.POSITIVE_INFINITY);
        MovieFollower follower = new MovieFollower();
        follower.know(earlier);
        follower.look(trial.until(SEARCHED_S), Progress.SILENT);
        assertThat(follower.leads()).isTrue();
        assertThat(follower.conclude(both)).isEmpty();
        assertThat(follower.conclude(trial.whole())).isPresent();
    }

    @Test
    void whereNobodyStandsOutNothingIsGoneOnFrom() throws IOException {
        LiveTrial trial = trial(TrialKind.NOTHING);
        MovieFollower follower = new MovieFollower();
        assertThat(follower.conclude(trial.whole())).isEmpty();
        follower.look(trial.until(SEARCHED_S), Progress.SILENT);
        assertThat(follower.leads()).isFalse();
        assertThat(follower.follow(trial.whole(), Progress.SILENT)).isEmpty();
        assertThat(follower.conclude(trial.whole())).isEmpty();
    }
}
