package ohmoscope.sim;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Rail;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.ProbePlace;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.imaging.CaptureSpec;
import ohmoscope.core.imaging.FrameSource;
import ohmoscope.core.locate.LocateInput.Capture;
import ohmoscope.core.prove.RailInQuestion;
import ohmoscope.formats.Bundle;
import ohmoscope.sim.BenchSetup.View;

/** Runs an injection on a simulated bench and returns what a technician would have recorded. */
public final class BenchSimulator {
    private static final double COPPER_OHMS = 0.0025;
    private static final double LEAD_SIGMA_OHMS = 0.005;
    private static final double PAUSE_BETWEEN_VIEWS_S = 6;
    private static final double COOL_SECONDS = 60;

    private BenchSimulator() {}

    /**
     * What truly happened, for evaluations.
     *
     * @param heatSpot where a large chip's heat starts; empty when a part warms as a whole
     */
    public record Truth(Optional<String> ref, double amps, double watts, Optional<PointMm> heatSpot) {}

    /** A bundle and its truth. */
    public record Run(Bundle bundle, Truth truth) {}

    public static Run run(BenchSetup setup) {
        return new Session(setup).run();
    }

    private static final class Session {
        private final BenchSetup setup;
        private final Board board;
        private final Random random;
        private final ProbePlace hot;
        private final ProbePlace back;
        private final Rail rail;
        private final List<SupplyLog.Row> log = new ArrayList<>();
        private final double amps;
        private final double totalOhms;
        private final HeatFeed heats;

        Session(BenchSetup setup) {
            this.setup = setup;
            board = setup.board();
            random = new Random(setup.seed());
            hot = HeatFeed.pad(board, setup.feedRef(), setup.feedNet());
            back = HeatFeed.returnPad(board, hot);
            rail = Rail.between(board, setup.feedNet(), setup.rail());
            heats = new HeatFeed(board, hot, back, rail, setup.faults(), HeatFeed.CONTACT_OHMS, setup.seed());
            double series = setup.faults().isEmpty()
                    ? 0
                    : rail.path().stream()
                            .mapToDouble(p -> p.resistanceOhms().orElse(0))
                            .sum();
            totalOhms = setup.supply().leadOhms()
                    + HeatFeed.CONTACT_OHMS
                    + COPPER_OHMS
                    + series
                    + heats.shorted()
                    + setup.oddities().cableOhms();
            amps = Math.min(setup.supply().limitAmps(), setup.supply().setVolts() / totalOhms);
        }

        Run run() {
            List<Capture> captures = new ArrayList<>();
            double start = 1 + random.nextDouble();
            for (int v = 0; v < setup.views().size(); v++) {
                View view = setup.views().get(v);
                String id = view.side().name().toLowerCase(Locale.ROOT) + "-" + (v + 1);
                double end = capture(view, id, start, captures);
                start = end + PAUSE_BETWEEN_VIEWS_S;
            }
            double lead = setup.supply().leadOhms()
                    + HeatFeed.CONTACT_OHMS / 2
                    + LEAD_SIGMA_OHMS * 0.5 * random.nextGaussian();
            // Who stands on ground takes it for the rail.
            String takenFor = board.isGround(setup.feedNet()) ? setup.rail() : setup.feedNet();
            Injection injection = new Injection(
                    takenFor,
                    Optional.of(hot),
                    Optional.of(back),
                    OptionalDouble.of(setup.supply().setVolts()),
                    OptionalDouble.of(setup.supply().limitAmps()),
                    OptionalDouble.of(rounded(Math.max(0.001, lead), 4)),
                    OptionalDouble.of(LEAD_SIGMA_OHMS));
            Observation inject = new Observation.Inject(
                    1,
                    takenFor,
                    Optional.of(setup.feedRef()),
                    injection.setVolts(),
                    injection.limitAmps(),
                    OptionalDouble.of(rounded(amps * totalOhms, 3)),
                    OptionalDouble.of(rounded(amps, 3)),
                    injection.leadOhms(),
                    Optional.of(Observation.TraceShape.FLAT),
                    Optional.empty());
            Bundle bundle = new Bundle(
                    new Bundle.Job(setup.jobId(), setup.title(), Optional.of(setup.opened())),
                    board,
                    RailInQuestion.stated(setup.rail()),
                    Optional.of(injection),
                    Optional.of(new SupplyLog(log)),
                    captures,
                    List.of(inject),
                    Map.of());
            Optional<String> worst = setup.faults().entrySet().stream()
                    .min(Map.Entry.comparingByValue())
                    .map(Map.Entry::getKey);
            double watts = worst.map(ref ->
                            Math.pow(amps * heats.shorted(), 2) / setup.faults().get(ref))
                    .orElse(0.0);
            return new Run(
                    bundle,
                    new Truth(
                            worst,
                            amps,
                            watts,
                            worst.flatMap(board::part).filter(HeatFeed::hasDie).map(heats::dieSpot)));
        }

        /** @return when the capture ends, seconds */
        private double capture(View view, String id, double start, List<Capture> captures) {
            BenchSetup.Camera camera = setup.camera();
            HeatSolver heat = new HeatSolver(
                    board,
                    HeatFeed.cellMm(board),
                    HeatFeed.UNEVEN_COPPER,
                    setup.oddities(),
                    new Random(setup.seed() * 31 + 7));
            int pulses = setup.supply().pulses();
            double burst = setup.supply().onSeconds() / pulses;
            double length = camera.baselineSeconds()
                    + burst * (2 * pulses - 1)
                    + (pulses > 1 ? burst : 0)
                    + camera.afterglowSeconds();
            int frames = Math.max(8, (int) Math.round(length * camera.framesPerSecond()));
            CameraSimulator eye = new CameraSimulator(board, view, camera, setup.oddities(), hot, frames, random);
            List<char[]> taken = new ArrayList<>();
            List<Double> times = new ArrayList<>();
            double logOffset = 0.08 * (random.nextDouble() - 0.5);
            boolean on = false;
            double leadWatts = amps * amps * setup.supply().leadOhms();
            double wireK = 0;
            double t = start;
            double nextLog = start - 0.3;
            for (int f = 0; f < frames; f++) {
                double due = start + (f + 0.06 * random.nextGaussian() * 0.5) / camera.framesPerSecond();
                while (t < due) {
                    boolean now = output(t - start, burst, pulses);
                    if (now != on) {
                        on = now;
                        feed(heat, on);
                    }
                    double step = Math.min(0.02, due - t);
                    heat.advance(step);
                    wireK += step * ((on ? HeatFeed.WIRE_K_PER_W * leadWatts : 0) - wireK / HeatFeed.WIRE_SECONDS);
                    t += step;
                    if (t >= nextLog) {
                        log.add(row(t + logOffset, on));
                        nextLog += 0.1;
                    }
                }
                times.add(rounded(Math.max(due, times.isEmpty() ? due : times.get(f - 1)), 4));
                taken.add(eye.frame(f, due, heat, wireK));
            }
            log.add(row(t + 0.2 + logOffset, false));
            CaptureSpec spec = new CaptureSpec(
                    id,
                    view.side(),
                    camera.width(),
                    camera.height(),
                    CameraSimulator.KELVIN_PER_COUNT,
                    0,
                    OptionalDouble.of(rounded(camera.netdK(), 3)),
                    OptionalDouble.of(0.95),
                    eye.clickedPairs(),
                    times);
            captures.add(new Capture(spec, inMemory(taken)));
            return t + COOL_SECONDS;
        }

        private boolean output(double since, double burst, int pulses) {
            double s = since - setup.camera().baselineSeconds();
            int phase = (int) Math.floor(s / burst);
            return s >= 0 && phase % 2 == 0 && phase / 2 < pulses;
        }

        private void feed(HeatSolver heat, boolean on) {
            heat.clearHeat();
            if (on && !(setup.oddities().cableOhms() > 0)) {
                heats.into(heat, amps);
            }
        }

        private SupplyLog.Row row(double t, boolean on) {
            double volts = on ? amps * totalOhms : 0;
            return new SupplyLog.Row(
                    rounded(t, 3),
                    rounded(Math.max(0, volts + 0.001 * random.nextGaussian()), 3),
                    rounded(Math.max(0, (on ? amps : 0) + 0.001 * random.nextGaussian()), 3),
                    on);
        }

        private static double rounded(double value, int digits) {
            return Double.parseDouble(String.format(Locale.ROOT, "%." + digits + "f", value));
        }

        private static FrameSource inMemory(List<char[]> frames) {
            return () -> new FrameSource.Cursor() {
                private int at;

                @Override
                public boolean next(char[] counts) {
                    if (at == frames.size()) {
                        return false;
                    }
                    System.arraycopy(frames.get(at++), 0, counts, 0, counts.length);
                    return true;
                }

                @Override
                public void close() {
                    // nothing is held open
                }
            };
        }
    }
}
