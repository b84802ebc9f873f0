package ohmoscope.sim;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.stream.Collectors;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.board.Rail;
import ohmoscope.core.evidence.ProbePlace;
import ohmoscope.core.imaging.RegistrationPair;
import ohmoscope.core.inject.InjectionPlaces;
import ohmoscope.sim.BenchSetup.Camera;
import ohmoscope.sim.BenchSetup.Oddities;
import ohmoscope.sim.BenchSetup.View;

/**
 * A board under a thermal camera, as time goes by: heat goes on while a current flows and decays after. Safe for the
 * threads of several instruments. A frame costs O(cells × steps since the last one).
 */
public final class LiveScene {
    /** A cell of half a millimetre would cost half of a processor while time goes by; this costs a tenth. */
    private static final double CELL_MM = 0.7;

    /** The camera re-zeroes itself once in so many frames. */
    private static final int CYCLE_FRAMES = 400;

    /** So little heat warms nothing that could be seen: while nothing flows, time passes over it for nothing, joules. */
    private static final double COLD_J = 0.02;

    public static final double KELVIN_PER_COUNT = CameraSimulator.KELVIN_PER_COUNT;

    /** What the camera takes its surroundings for. */
    public static final double AMBIENT_K = CameraSimulator.AMBIENT_K;

    private final Board board;
    private final String faulty;
    private Rail rail;
    private ProbePlace hot;
    private final ProbePlace back;
    private final Map<String, Double> faults;
    private final double leadOhms;
    private final long seed;
    private final Camera camera;
    private final HeatSolver heat;
    private final CameraSimulator eye;
    private boolean cold = true;
    private String solvedFor = "";
    private Optional<CopperSheet.Potential> railVolts = Optional.empty();
    private Optional<CopperSheet.Potential> groundVolts = Optional.empty();
    private double groundAtFault;
    private double amps;
    private double contactOhms = HeatFeed.CONTACT_OHMS;
    private double wireK;
    private double tS;
    private int frames;

    /**
     * @param faults ohms to ground by part reference
     * @param feedRef the part on whose pad the hot lead sits
     * @param rail where the faults are
     */
    public LiveScene(
            Board board,
            Map<String, Double> faults,
            String feedRef,
            String feedNet,
            String rail,
            View view,
            Camera camera,
            double leadOhms,
            long seed) {
        this.board = board;
        this.faulty = rail;
        this.rail = Rail.between(board, feedNet, rail);
        this.faults = new TreeMap<>(faults);
        this.leadOhms = leadOhms;
        this.seed = seed;
        this.camera = camera;
        hot = HeatFeed.pad(board, feedRef, feedNet);
        back = back(board, feedNet, faults);
        heat = new HeatSolver(
                board,
                Math.max(CELL_MM, HeatFeed.cellMm(board)),
                HeatFeed.UNEVEN_COPPER,
                Oddities.NONE,
                new Random(seed * 31 + 7));
        eye = new CameraSimulator(board, view, camera, Oddities.NONE, hot, CYCLE_FRAMES, new SplittableRandom(seed));
    }

    /** Ground's best pad, as the planner says it to the technician. */
    private static ProbePlace back(Board board, String net, Map<String, Double> faults) {
        Map<String, Double> suspects = faults.keySet().stream().collect(Collectors.toMap(ref -> ref, ref -> 1.0));
        return InjectionPlaces.of(board, net, new BoardIndex(board).ground(), suspects).back().stream()
                .findFirst()
                .map(p -> new ProbePlace(p.xMm(), p.yMm(), p.side(), Optional.of(p.ref())))
                .orElseThrow(() -> new InvalidMember("board", "has no ground for the return lead"));
    }

    public Camera camera() {
        return camera;
    }

    /** What so many amperes do from a time on, seconds, not before the last one given. */
    public synchronized void flows(double amps, double tS) {
        advance(tS);
        this.amps = amps;
        cold &= amps == 0;
        feed();
    }

    /** Some faults are no more: a part was taken off, or burned open. */
    public synchronized void without(Set<String> refs) {
        faults.keySet().removeAll(refs);
        feed();
    }

    /** The hot lead is set on another part's pad. */
    public synchronized void feedAt(String feedRef, String feedNet) {
        hot = HeatFeed.pad(board, feedRef, feedNet);
        rail = Rail.between(board, feedNet, faulty);
        eye.lead(hot);
        solvedFor = "";
        feed();
    }

    /** The hot lead sits badly. @param ohms besides those of a good contact */
    public synchronized void contact(double ohms) {
        contactOhms = HeatFeed.CONTACT_OHMS + ohms;
        feed();
    }

    /** Whether what flows into the faults goes through a part, as the leads are. */
    public synchronized boolean goesThrough(String ref) {
        return rail.path().stream().anyMatch(p -> p.ref().equals(ref));
    }

    private void feed() {
        heat.clearHeat();
        if (amps > 0) {
            new HeatFeed(board, hot, back, rail, faults, contactOhms, seed).into(heat, amps);
        }
    }

    /** @return counts, row-major, {@link #KELVIN_PER_COUNT} each from 0 K on */
    public synchronized char[] frame(double tS) {
        advance(tS);
        return eye.frame(frames++, tS, heat, wireK);
    }

    /** Time goes by though nobody looks. */
    public synchronized void goOn(double tS) {
        advance(tS);
    }

    private void advance(double to) {
        double step = to - tS;
        if (step <= 0) {
            return;
        }
        tS = to;
        if (!cold) {
            heat.advance(step);
            double settled = HeatFeed.WIRE_K_PER_W * HeatFeed.WIRE_SECONDS * amps * amps * leadOhms;
            wireK = settled + (wireK - settled) * Math.exp(-step / HeatFeed.WIRE_SECONDS);
            cold = amps == 0 && heat.storedJoules() < COLD_J;
        }
    }

    /**
     * Volts an ampere across a part's own terminals, besides the faults' own: the drop along rail and ground from there to
     * where the current goes through. Worked out once for each set of faults.
     */
    public synchronized double dropOhms(String ref, String ground) {
        String where = faults.keySet().stream().findFirst().orElse("");
        if (where.isEmpty() || board.part(ref).isEmpty()) {
            return 0;
        }
        if (!where.equals(solvedFor)) {
            Random random = new Random(seed + 5);
            CopperSheet ofRail = new CopperSheet(board, rail.net(), 1, random);
            CopperSheet ofGround = new CopperSheet(board, ground, Math.max(1, board.copperLayers() / 2.0), random);
            PointMm out = at(HeatFeed.pad(board, where, rail.net()));
            PointMm in = at(HeatFeed.pad(board, where, ground));
            railVolts = Optional.of(ofRail.between(at(hot), out));
            groundVolts = Optional.of(ofGround.between(in, at(back)));
            groundAtFault = groundVolts.get().at(in);
            solvedFor = where;
        }
        return railVolts.orElseThrow().at(at(HeatFeed.pad(board, ref, rail.net())))
                + groundAtFault
                - groundVolts.orElseThrow().at(at(HeatFeed.pad(board, ref, ground)));
    }

    private static PointMm at(ProbePlace place) {
        return new PointMm(place.xMm(), place.yMm());
    }

    /** Pairs as somebody would click them on the first frame. */
    public synchronized List<RegistrationPair> clickedPairs() {
        return eye.clickedPairs();
    }
}
