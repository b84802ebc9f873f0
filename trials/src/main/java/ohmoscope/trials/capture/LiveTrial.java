package ohmoscope.trials.capture;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Stream;
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

/**
 * A drawn hunt as a live bench takes its first movie, looked into while it grows, against the stored movie's answer.
 *
 * @param whole the hunt with all frames
 */
public record LiveTrial(LocateInput whole) {
    private static final double FRAMES_PER_SECOND = 25;
    private static final double AFTERGLOW_S = 1;

    /** Searches begin so long before the movie's end, s: every other second, the last when current is about to end. */
    private static final List<Double> SEARCHED_S = List.of(5.5, 3.5, 1.5);

    /** The looks that go on from them, likewise: as often as they are done while the board cools. */
    private static final List<Double> FOLLOWED_S = List.of(0.85, 0.4);

    /** @param width of the camera's picture, pixels */
    public static LiveTrial of(TrialKind kind, long seed, int width, int height) {
        BenchSetup drawn = Trials.draw(kind, seed, OptionalDouble.empty());
        BenchSetup.Camera camera = drawn.camera().live(width, height, FRAMES_PER_SECOND, AFTERGLOW_S);
        LocateInput all = BenchSimulator.run(drawn.with(camera)).bundle().locateInput();
        return new LiveTrial(with(all, all.captures().subList(0, 1), Double.POSITIVE_INFINITY));
    }

    /**
     * How the movie's end was met.
     *
     * @param last what was made of the looks before; empty where nobody stood out in them
     * @param lastS how long that took
     * @param stored the stored movie's answer
     * @param storedS how long that took
     */
    public record Outcome(Optional<LocateResult> last, double lastS, LocateResult stored, double storedS) {
        /** The most that a probability differs. */
        public double apart() {
            LocateResult own = last.orElse(stored);
            return Stream.concat(own.suspects().stream(), stored.suspects().stream())
                    .map(Suspect::part)
                    .mapToDouble(part -> Math.abs(own.probability(part.ref()) - stored.probability(part.ref())))
                    .reduce(
                            Math.max(
                                    Math.abs(own.noneProbability() - stored.noneProbability()),
                                    Math.abs(own.elsewhereProbability() - stored.elsewhereProbability())),
                            Math::max);
        }
    }

    public Outcome run() throws IOException {
        MovieFollower follower = new MovieFollower();
        for (double beforeEndS : SEARCHED_S) {
            follower.look(until(beforeEndS), Progress.SILENT);
        }
        for (double beforeEndS : FOLLOWED_S) {
            follower.follow(until(beforeEndS), Progress.SILENT);
        }
        long from = System.nanoTime();
        Optional<LocateResult> last = follower.conclude(whole);
        double lastS = (System.nanoTime() - from) / 1e9;
        from = System.nanoTime();
        LocateResult stored = new Locator().locate(whole, Progress.SILENT);
        return new Outcome(last, lastS, stored, (System.nanoTime() - from) / 1e9);
    }

    /** The hunt as it was so long before its movie's end. */
    public LocateInput until(double beforeEndS) {
        Capture capture = whole.captures().get(0);
        CaptureSpec spec = capture.spec();
        double untilS = spec.timesS().get(spec.frameCount() - 1) - beforeEndS;
        int frames = (int) spec.timesS().stream().filter(s -> s <= untilS).count();
        return with(whole, List.of(first(frames, spec.id())), untilS);
    }

    /** The movie's first frames, under a name. */
    public Capture first(int frames, String id) {
        Capture capture = whole.captures().get(0);
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

    /** The hunt with other captures. @param untilS what the supply shows later is not known yet */
    public static LocateInput with(LocateInput hunt, List<Capture> captures, double untilS) {
        return new LocateInput(
                hunt.board(),
                hunt.rail(),
                hunt.injection(),
                new SupplyLog(hunt.supplyLog().rows().stream()
                        .filter(row -> row.tS() <= untilS)
                        .toList()),
                captures,
                hunt.observations(),
                hunt.leaning());
    }
}
