package ohmoscope.bench.sim;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import java.util.TreeMap;
import ohmoscope.bench.sim.BenchSetup.View;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Outline;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Pin;
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

/** Runs an injection on a simulated bench and returns what a technician would have recorded. */
public final class BenchSimulator {
    private static final double CONTACT_OHMS = 0.006;
    private static final double COPPER_OHMS = 0.0025;
    private static final double LEAD_SIGMA_OHMS = 0.005;
    private static final double UNEVEN_COPPER = 0.25;
    /** Cells of the heat model, at most, in one layer. */
    private static final double MAX_CELLS = 16_000;

    private static final double PAUSE_BETWEEN_VIEWS_S = 6;
    private static final double COOL_SECONDS = 60;
    /** How fast a lead of one ohm warms. */
    private static final double WIRE_K_PER_W = 1.64;

    private static final double DIE_FROM_MM2 = 12;
    private static final double WIRE_SECONDS = 14;

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

        Session(BenchSetup setup) {
            this.setup = setup;
            board = setup.board();
            random = new Random(setup.seed());
            hot = pad(board.part(setup.feedRef()).orElseThrow(), setup.feedNet());
            back = returnPad();
            rail = Rail.between(board, setup.feedNet(), setup.rail());
            double series = setup.faults().isEmpty()
                    ? 0
                    : rail.path().stream()
                            .mapToDouble(p -> p.resistanceOhms().orElse(0))
                            .sum();
            totalOhms = setup.supply().leadOhms()
                    + CONTACT_OHMS
                    + COPPER_OHMS
                    + series
                    + shorted()
                    + setup.oddities().cableOhms();
            amps = Math.min(setup.supply().limitAmps(), setup.supply().setVolts() / totalOhms);
        }

        /** The faults side by side; no fault means the probe sits on ground. */
        private double shorted() {
            double siemens =
                    setup.faults().values().stream().mapToDouble(r -> 1 / r).sum();
            return siemens > 0 ? 1 / siemens : 0;
        }

        private ProbePlace pad(Part part, String net) {
            Pin pin = part.pins().stream()
                    .filter(p -> p.net().equals(net))
                    .findFirst()
                    .orElse(part.pins().get(0));
            return new ProbePlace(pin.xMm(), pin.yMm(), part.side(), Optional.of(part.ref()));
        }

        private ProbePlace returnPad() {
            Outline o = board.outline();
            boolean leftFeed = hot.xMm() < (o.minXMm() + o.maxXMm()) / 2;
            return new ProbePlace(
                    leftFeed ? o.maxXMm() - 2.5 : o.minXMm() + 2.5, o.minYMm() + 2.5, hot.side(), Optional.empty());
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
            double lead = setup.supply().leadOhms() + CONTACT_OHMS / 2 + LEAD_SIGMA_OHMS * 0.5 * random.nextGaussian();
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
                            Math.pow(amps * shorted(), 2) / setup.faults().get(ref))
                    .orElse(0.0);
            return new Run(
                    bundle,
                    new Truth(
                            worst,
                            amps,
                            watts,
                            worst.flatMap(board::part).filter(Session::hasDie).map(this::dieSpot)));
        }

        /** @return when the capture ends, seconds */
        private double capture(View view, String id, double start, List<Capture> captures) {
            BenchSetup.Camera camera = setup.camera();
            Outline o = board.outline();
            double area = (o.maxXMm() - o.minXMm()) * (o.maxYMm() - o.minYMm());
            HeatSolver heat = new HeatSolver(
                    board,
                    Math.max(0.4, Math.sqrt(area / MAX_CELLS)),
                    UNEVEN_COPPER,
                    setup.oddities(),
                    new Random(setup.seed() * 31 + 7));
            int pulses = setup.supply().pulses();
            double burst = setup.supply().onSeconds() / pulses;
            double length = camera.baselineSeconds() + burst * (2 * pulses - 1) + (pulses > 1 ? burst : 0);
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
                    wireK += step * ((on ? WIRE_K_PER_W * leadWatts : 0) - wireK / WIRE_SECONDS);
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
            if (!on) {
                return;
            }
            double amps2 = amps * amps;
            if (setup.oddities().cableOhms() > 0) {
                return;
            }
            heat.heatPlace(hot.xMm(), hot.yMm(), hot.side(), amps2 * CONTACT_OHMS * 0.7);
            heat.heatPlace(back.xMm(), back.yMm(), back.side(), amps2 * CONTACT_OHMS * 0.3);
            if (setup.faults().isEmpty()) {
                return;
            }
            for (Part part : rail.path()) {
                heat.heatPart(part.ref(), amps2 * part.resistanceOhms().orElse(0));
            }
            double volts = amps * shorted();
            for (var fault : new TreeMap<>(setup.faults()).entrySet()) {
                Part part = board.part(fault.getKey()).orElseThrow();
                double watts = volts * volts / fault.getValue();
                if (hasDie(part)) {
                    PointMm spot = dieSpot(part);
                    heat.heatPlace(spot.xMm(), spot.yMm(), part.side(), 0.7 * watts);
                    heat.heatPart(fault.getKey(), 0.3 * watts);
                } else {
                    heat.heatPart(fault.getKey(), watts);
                }
            }
        }

        private static boolean hasDie(Part part) {
            return part.wMm() * part.hMm() > DIE_FROM_MM2;
        }

        /** A die's hot spot: off the package's centre, straight into the board. */
        private PointMm dieSpot(Part part) {
            Random die = new Random(setup.seed() + 99);
            return new PointMm(
                    part.xMm() + 0.25 * part.wMm() * (die.nextDouble() - 0.5),
                    part.yMm() + 0.25 * part.hMm() * (die.nextDouble() - 0.5));
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
