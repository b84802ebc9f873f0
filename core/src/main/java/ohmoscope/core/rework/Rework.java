package ohmoscope.core.rework;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.BodyGap;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.rework.ReworkPlan.Bridge;
import ohmoscope.core.rework.Way.Method;
import ohmoscope.core.rework.Way.Peak;

/**
 * Works out each way of taking a part off. A setting's course is found from one run a nozzle, as rises are in proportion to the
 * air's; the chosen one is then run as it would be done, with its end and what spreads after it. A handful of runs of
 * {@link HeatedBoard}: about a second.
 */
public final class Rework {
    /** What stands farther off is not looked at, mm. */
    public static final double NEIGHBOURS_MM = 15;

    /** The last joint is this warm when all solder surely flows: lead-free as usual, or mixed with low-melting alloy. */
    private static final double FLOWS_C = 232;

    private static final double LOW_MELT_FLOWS_C = 160;
    /** Longer than that nobody blows at one place: the board browns. */
    private static final double MOST_SECONDS = 50;

    private static final double SAMPLE_S = 0.25;
    /** To see it, to take hold of it, to lift it. */
    private static final double LIFT_S = 2;
    /** What was warmed goes on to warm its neighbours. */
    private static final double AFTER_S = 4;
    /** Settings are looked at in such steps. */
    private static final double STEP_C = 15;

    /** Air that takes longer tires the hand and browns the board; air that is quicker leaves no time to look. */
    private static final double GOOD_SECONDS = 20;

    private static final double QUICK_SECONDS = 6;
    /** A second too few weighs as much as so many too many. */
    private static final double TOO_QUICK = 4;
    /** A tip wets both ends, one after the other. */
    private static final double WETS_S = 1.5;
    /** What does not melt at all is worse than whatever warms a neighbour. */
    private static final double NEVER_K = 1000;

    private static final double SCREEN_MINUTES = 0.3;
    private static final double TAPE_MINUTES = 0.1;
    /** How often a neighbour whose solder melts does not settle where it stood, and how often when it is taped down. */
    private static final double MOVED = 0.005;

    private static final double MOVED_UNDER_TAPE = 0.001;
    private static final double LEAST_AIR_C = 290;
    private static final double LOW_MELT_AIR_C = 215;
    private static final double LOW_MELT_TIP_C = 260;
    private static final double TIP_C = 350;
    /** Between a wetted tip and a pad. */
    private static final double TIP_W_PER_K = 0.03;
    /** A pad of half a millimetre above the board round it: of a trace, and of one that vias join to a plane. */
    private static final double PAD_K_PER_W = 160;

    private static final double PLANE_K_PER_W = 80;

    private static final double PREHEAT_C = 110;
    /** Small parts that two tips, or one broad one, melt at both ends. */
    private static final int IRON_PINS = 3;

    private static final double IRON_MM2 = 16;
    private static final double COLD_MM2 = 8;
    /** What a rise may be on a board that is not as its file says, relative: measured against the simulator. */
    private static final double DOUBT = 1.2;
    /** A setting is chosen with so much to spare, and what comes nearer is screened. */
    private static final double KEPT_K = 3;

    private final Board board;
    private final Part part;
    private final Kit kit;
    private final Set<String> gone;
    private final double roomC;
    private final double gain;
    private final HeatedBoard heated;
    private final List<Part> neighbours;

    /**
     * @param gone references of what is not on the board any more
     * @param gain how much more heat this bench's air passes on than the literature says; 1 until it was learned
     */
    private Rework(Board board, Part part, Kit kit, SlabParameters slab, Set<String> gone, double roomC, double gain) {
        this.board = board;
        this.part = part;
        this.kit = kit;
        this.gone = gone;
        this.roomC = roomC;
        this.gain = gain;
        Set<String> off = new HashSet<>(gone);
        off.addAll(covers());
        // Who wants to know how it came off, asks again when it is.
        off.remove(part.ref());
        heated = new HeatedBoard(board, part, slab, off);
        Set<String> there = Set.copyOf(heated.parts());
        neighbours = board.parts().stream()
                .filter(p -> there.contains(p.ref()) && !p.ref().equals(part.ref()))
                .filter(p -> BodyGap.mm(p, part) <= NEIGHBOURS_MM)
                .toList();
    }

    /**
     * @param slab the board's heat, as its file lets one expect or as frames have told it
     * @param gone references of what is not on the board any more
     * @param roomC the room's temperature
     * @param gain see {@link Jet}
     * @throws InvalidMember for a part that nobody has put on the board
     */
    public static ReworkPlan plan(
            Board board, Part part, Kit kit, SlabParameters slab, Collection<String> gone, double roomC, double gain) {
        if (!board.placed(part)) {
            throw new InvalidMember("part", "has no place on the board: " + part.ref() + " stands beside it");
        }
        return new Rework(board, part, kit, slab, Set.copyOf(gone), roomC, gain).plan();
    }

    /** The same on a board that is as its file lets one expect. */
    public static ReworkPlan plan(Board board, Part part, Kit kit, Collection<String> gone, double roomC, double gain) {
        return plan(board, part, kit, SlabParameters.expected(board), gone, roomC, gain);
    }

    private ReworkPlan plan() {
        List<Way> ways = Stream.of(cold().stream(), iron().stream(), alloyed().stream(), blown())
                .flatMap(w -> w)
                .sorted(Comparator.comparing((Way w) -> !w.safe()).thenComparingDouble(Way::cost))
                .toList();
        return new ReworkPlan(part, ways, covers(), Bridge.of(part));
    }

    /** Cans over the part: they come off first. */
    private List<String> covers() {
        return board.parts().stream()
                .filter(p -> p.kind() == PartKind.SHIELD && p.side() == part.side() && !gone.contains(p.ref()))
                .filter(p -> !p.ref().equals(part.ref()) && p.covers(part.xMm(), part.yMm(), 0))
                .map(Part::ref)
                .toList();
    }

    private double areaMm2() {
        return part.wMm() * part.hMm();
    }

    private boolean ceramic() {
        return part.kind() == PartKind.CAPACITOR && part.pins().size() == 2 && areaMm2() <= COLD_MM2;
    }

    /** A ceramic capacitor that is dead anyway is broken off its pads; fast, without heat, and sometimes with a pad. */
    private Optional<Way> cold() {
        return ceramic()
                ? Optional.of(new Way(
                        Method.COLD_LEVER,
                        OptionalDouble.empty(),
                        OptionalDouble.empty(),
                        OptionalDouble.empty(),
                        OptionalDouble.empty(),
                        0,
                        roomC,
                        List.of(),
                        List.of(),
                        List.of(),
                        1.5,
                        0.1))
                : Optional.empty();
    }

    private boolean forTip() {
        return part.pins().size() <= IRON_PINS && areaMm2() <= IRON_MM2;
    }

    private List<Heating.Pad> pads() {
        return part.pins().isEmpty()
                ? List.of(new Heating.Pad(new PointMm(part.xMm(), part.yMm()), PAD_K_PER_W))
                : part.pins().stream().map(this::pad).toList();
    }

    /** Ground is the plane itself, a few vias away. */
    private Heating.Pad pad(Pin pin) {
        double wide = Math.sqrt(Math.max(1, areaMm2()));
        double held = board.isGround(pin.net()) ? PLANE_K_PER_W : PAD_K_PER_W;
        return new Heating.Pad(new PointMm(pin.xMm(), pin.yMm()), held / wide);
    }

    private Optional<Way> iron() {
        return kit.iron()
                .filter(i -> forTip())
                .map(iron -> tipped(Method.IRON, Math.min(TIP_C, iron.mostC()), FLOWS_C, 2, 0.03));
    }

    private Way tipped(Method method, double tipC, double flowsC, double minutes, double risk) {
        Heating tip = new Heating.Tip(part.side(), pads(), tipC, TIP_W_PER_K);
        return carriedOut(method, tip, OptionalDouble.empty(), 0, flowsC, Set.of(), minutes, risk);
    }

    private Stream<Way> blown() {
        if (kit.air().isEmpty()) {
            return Stream.empty();
        }
        Kit.Air air = kit.air().get();
        Map<Double, Courses> courses = new ConcurrentHashMap<>();
        air.nozzlesMm().parallelStream().forEach(d -> courses.put(d, courses(d, Set.of())));
        double preheatK =
                kit.preheater().map(p -> Math.min(PREHEAT_C, p.mostC()) - roomC).orElse(0.0);
        List<Blown> kinds = new ArrayList<>();
        kinds.add(new Blown(Method.AIR, 0, FLOWS_C, LEAST_AIR_C, 2.5, 0.02));
        if (kit.preheater().isPresent()) {
            kinds.add(new Blown(Method.AIR_PREHEATED, preheatK, FLOWS_C, LEAST_AIR_C, 6, 0.02));
        }
        if (kit.lowMelt() && kit.iron().isPresent() && !forTip()) {
            kinds.add(new Blown(Method.LOW_MELT, 0, LOW_MELT_FLOWS_C, LOW_MELT_AIR_C, 7, 0.03));
        }
        return kinds.parallelStream().map(kind -> best(kind, courses));
    }

    /** A kind of work with air. @param leastC lowest setting that is thought of */
    private record Blown(Method method, double preheatK, double flowsC, double leastC, double minutes, double risk) {}

    /**
     * A nozzle and its setting, with what is to be expected of them.
     *
     * @param shortK how far a neighbour is beyond what is kept free below its limit, or much more for joints that stay solid
     */
    private record Setting(double nozzleMm, double airC, double shortK, double seconds, Set<String> hot) {
        /** No neighbour harmed first; then hands like a cool setting that still leaves time to look, and not too much. */
        static final Comparator<Setting> BY_HARM =
                Comparator.comparingDouble((Setting s) -> Math.rint(s.shortK)).thenComparingDouble(Setting::awkward);

        private double awkward() {
            return Math.max(0, seconds - GOOD_SECONDS)
                    + TOO_QUICK * Math.max(0, QUICK_SECONDS - seconds)
                    + airC / STEP_C;
        }
    }

    private Courses courses(double nozzleMm, Set<String> screened) {
        Kit.Air air = kit.air().orElseThrow();
        Heating.Air blown = new Heating.Air(
                part.side(), part.xMm(), part.yMm(), new Jet(nozzleMm, air.litresPerMin(), air.mostC(), gain));
        return Courses.of(
                heated,
                blown,
                part,
                neighbours,
                screened,
                MOST_SECONDS,
                SAMPLE_S,
                kit.preheater().isPresent(),
                Rework::counted);
    }

    private Way best(Blown kind, Map<Double, Courses> courses) {
        Setting plain = courses.entrySet().stream()
                .flatMap(e -> settings(kind, e.getKey(), e.getValue()))
                .min(Setting.BY_HARM)
                .orElseThrow();
        if (plain.hot().isEmpty() || !kit.screens()) {
            return carriedOut(kind, plain, Set.of());
        }
        Setting screened = settings(kind, plain.nozzleMm(), courses(plain.nozzleMm(), plain.hot()))
                .min(Setting.BY_HARM)
                .orElseThrow();
        return carriedOut(kind, screened, plain.hot());
    }

    /** How each setting would go, from the courses alone. */
    private Stream<Setting> settings(Blown kind, double nozzleMm, Courses courses) {
        double mostC = kit.air().orElseThrow().mostC();
        return Stream.iterate(Math.min(kind.leastC(), mostC), c -> c <= mostC, c -> c + STEP_C)
                .map(c -> setting(kind, nozzleMm, c, (c - roomC) / mostC, courses));
    }

    private Setting setting(Blown kind, double nozzleMm, double airC, double share, Courses courses) {
        int melts = 0;
        while (melts < courses.samples() - 1
                && courses.riseK(melts, 0, share, kind.preheatK()) + roomC < kind.flowsC()) {
            melts++;
        }
        int lifted = Math.min(courses.samples() - 1, melts + (int) (LIFT_S / SAMPLE_S));
        double lacking = Math.max(0, kind.flowsC() - roomC - courses.riseK(melts, 0, share, kind.preheatK()));
        Set<String> hot = new HashSet<>();
        double over = 0;
        for (int i = 0; i < neighbours.size(); i++) {
            Part n = neighbours.get(i);
            HeatLimit limit = limit(n);
            double room = limit.celsius() - roomC - DOUBT * courses.riseK(lifted, i + 1, share, kind.preheatK());
            if (limit.hard() && room < KEPT_K) {
                over = Math.max(over, KEPT_K - room);
                if (n.side() == part.side() && BodyGap.mm(n, part) > 0) {
                    hot.add(n.ref());
                }
            }
        }
        return new Setting(nozzleMm, airC, over + (lacking > 0 ? NEVER_K + lacking : 0), courses.seconds(melts), hot);
    }

    private Way carriedOut(Blown kind, Setting setting, Set<String> screened) {
        Kit.Air air = kit.air().orElseThrow();
        Jet jet = new Jet(setting.nozzleMm(), air.litresPerMin(), setting.airC(), gain);
        return carriedOut(
                kind.method(),
                new Heating.Air(part.side(), part.xMm(), part.yMm(), jet),
                OptionalDouble.of(setting.nozzleMm()),
                kind.preheatK(),
                kind.flowsC(),
                screened,
                kind.minutes() + (screened.isEmpty() ? 0 : 1 + SCREEN_MINUTES * screened.size()),
                kind.risk());
    }

    /** Alloy is mixed into both ends, which a cooler tip then keeps liquid. */
    private Optional<Way> alloyed() {
        return kit.iron()
                .filter(i -> kit.lowMelt() && forTip())
                .map(i -> tipped(Method.LOW_MELT, LOW_MELT_TIP_C, LOW_MELT_FLOWS_C, 5, 0.02));
    }

    /** As it would be done: heat until the last joint is liquid, lift, take the heat away. */
    private Way carriedOut(
            Method method,
            Heating heating,
            OptionalDouble nozzleMm,
            double preheatK,
            double flowsC,
            Set<String> screened,
            double minutes,
            double risk) {
        HeatedBoard.Run run = heated.heated(heating, screened, roomC, preheatK);
        double[] hottest = new double[neighbours.size()];
        OptionalDouble melts = OptionalDouble.empty();
        while (run.seconds() < MOST_SECONDS && (melts.isEmpty() || run.seconds() < melts.getAsDouble() + LIFT_S)) {
            run.advance(SAMPLE_S);
            seen(run, hottest);
            boolean wet = !(heating instanceof Heating.Tip) || run.seconds() >= WETS_S;
            if (melts.isEmpty() && wet && lastJointC(run, heating) >= flowsC) {
                melts = OptionalDouble.of(run.seconds());
            }
        }
        double heatedS = run.seconds();
        double joint = lastJointC(run, heating);
        run.off();
        while (run.seconds() < heatedS + AFTER_S) {
            run.advance(SAMPLE_S);
            seen(run, hottest);
        }
        List<Peak> peaks = new ArrayList<>();
        for (int i = 0; i < hottest.length; i++) {
            Part n = neighbours.get(i);
            boolean behind = n.side() != part.side();
            peaks.add(new Peak(
                    n.ref(),
                    behind,
                    BodyGap.mm(n, part),
                    hottest[i] + roomC,
                    DOUBT * hottest[i] + roomC,
                    limit(n),
                    screened.contains(n.ref())));
        }
        peaks.sort(Comparator.comparingDouble(Peak::marginK));
        List<String> taped = kit.tape() && heating instanceof Heating.Air
                ? peaks.stream()
                        .filter(Rework::blownAway)
                        .map(Peak::ref)
                        .sorted()
                        .toList()
                : List.of();
        long over = peaks.stream().filter(Peak::over).count();
        double moved = MOVED * (over - taped.size()) + MOVED_UNDER_TAPE * taped.size();
        return new Way(
                method,
                OptionalDouble.of(heating instanceof Heating.Air a ? a.jet().airC() : ((Heating.Tip) heating).tipC()),
                nozzleMm,
                preheatK > 0 ? OptionalDouble.of(preheatK + roomC) : OptionalDouble.empty(),
                melts,
                heatedS,
                joint,
                screened.stream().sorted().toList(),
                taped,
                peaks,
                minutes + heatedS / 60 + TAPE_MINUTES * taped.size(),
                Math.min(0.9, risk + moved + (melts.isPresent() ? 0 : 0.3)));
    }

    /** A small part in the air's way, once its solder melts. */
    private static boolean blownAway(Peak peak) {
        return peak.over() && !peak.limit().hard() && !peak.otherSide() && !peak.screened();
    }

    private double lastJointC(HeatedBoard.Run run, Heating heating) {
        return roomC + (heating instanceof Heating.Tip tip ? run.tippedK(tip) : run.coolestK(part.ref()));
    }

    private void seen(HeatedBoard.Run run, double[] hottest) {
        for (int i = 0; i < hottest.length; i++) {
            hottest[i] = Math.max(hottest[i], counted(run, neighbours.get(i)));
        }
    }

    private static double counted(HeatedBoard.Run run, Part n) {
        return HeatLimit.countsBody(n) ? run.hottestK(n.ref()) : run.jointK(n.ref());
    }

    private HeatLimit limit(Part n) {
        return HeatLimit.of(n, n.side() != part.side());
    }
}
