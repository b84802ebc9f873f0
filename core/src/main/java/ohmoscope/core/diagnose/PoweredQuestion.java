package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Role;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.circuit.PoweredTwin.Input;
import ohmoscope.core.circuit.PoweredTwin.Powered;
import ohmoscope.core.diagnose.Feeding.Fed;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;

/** What was measured while the board was fed in one way, in one state. */
final class PoweredQuestion implements Question {
    private static final double VOLTS_ACCURACY = 0.03;
    private static final double VOLTS_FLOOR = 0.08;
    private static final double FLOATING_VOLTS = 0.4;
    private static final double ABSENT_SIGMA_VOLTS = 0.15;
    private static final double VOLTS_SPAN = 30;
    /** A rail that must first be asked for may not have been. */
    private static final double NOT_ASKED_FOR = 0.3;

    /** How often what has failed open still lets some of the volts through. */
    private static final double HALF_OPEN = 0.2;

    /** An enable is a logic level: anything from here to here asks. */
    private static final double LEAST_LOGIC_VOLTS = 1.2;

    private static final double LOGIC_VOLTS = 3.3;
    /** A cell's own volts are within so much of what it is said to have. */
    private static final double CELL_SHARE = 0.25;

    private static final double MOST_LOGIC_VOLTS = 5.2;
    private static final double GATE_RIGHT = 0.85;
    /** At a charger's first voltage a board's own charger is often not yet told to start. */
    private static final double NOT_STARTED = 0.5;

    private static final double UNASKED_SHARE = 0.6;
    /** A port's own pull-down is 5.1 kΩ: what is far above it does not keep the line from asking. */
    private static final double LINE_IS_FREE_OHMS = 5_000;

    private final Fed fed;
    private final Map<String, Double> known;
    private final BoardState state;
    private final Predictor predictor;
    private final BoardIndex board;
    private final PowerTree tree;
    private final NetUses uses;
    private final List<Level> levels = new ArrayList<>();
    private final List<Drawn> draws = new ArrayList<>();
    /** Bridges tell by the volts alone and by the port's lines, and many leave the same. */
    private final Map<Left, Double> bridged = new HashMap<>();

    /** The board's own chargers as they are while they wait; empty where they should run. */
    private final List<Fault> waiting;

    /**
     * @param to the reference, where it is not ground
     * @param askedFor whether every enable on the way was measured to be active
     */
    private record Level(String net, Optional<String> to, double volts, NetKind kind, boolean askedFor) {}

    /** What bridges leave. */
    private record Left(List<Powered> powered, boolean asks) {}

    /** @param firstVolts whether the charger stayed at its first voltage */
    private record Drawn(Draw draw, boolean firstVolts) {
        double probability(Regime regime) {
            double p = Regime.probability(draw, regime);
            // A port that is never let in takes nothing and asks for nothing: either word is right.
            return draw == Draw.NONE && firstVolts
                    ? UNASKED_SHARE * Regime.probability(Draw.NO_NEGOTIATION, regime) + (1 - UNASKED_SHARE) * p
                    : p;
        }
    }

    /** @param known levels at gates of small transistors, measured in the same circuit */
    PoweredQuestion(
            Timeline timeline,
            NetUses uses,
            Predictor predictor,
            Fed fed,
            Map<String, Double> known,
            BoardState state) {
        this.board = timeline.board();
        this.tree = timeline.tree();
        this.uses = uses;
        this.predictor = predictor;
        this.fed = fed;
        this.known = known;
        this.state = state;
        waiting = fed.firstVolts() ? chargers() : List.of();
    }

    private List<Fault> chargers() {
        return board.parts().stream()
                .filter(p -> board.role(p) == Role.CHARGER)
                .<Fault>map(p -> new Fault.Dead(p.ref()))
                .toList();
    }

    /** @param measured every level measured in the same circuit */
    void add(Read read, String net, Map<String, Double> measured) {
        levels.add(new Level(
                net,
                read.to().filter(t -> board.net(t).isPresent()),
                read.value().getAsDouble(),
                board.net(net).orElseThrow().kind(),
                new AskedFor(board, tree, measured).all(net)));
    }

    void add(Power power) {
        power.net()
                .filter(n -> power.volts().isPresent())
                .flatMap(board::net)
                .ifPresent(n -> levels.add(
                        new Level(n.name(), Optional.empty(), power.volts().getAsDouble(), n.kind(), true)));
        Draw.of(board, tree, power)
                .filter(d -> d != Draw.UNCLEAR && power.from() != PowerSource.BATTERY)
                .ifPresent(d -> draws.add(new Drawn(d, Draw.firstVoltsOnly(board, tree, power))));
    }

    @Override
    public Set<String> nets() {
        Set<String> reach = predictor.reach(fed.inputs(), state);
        if (draws.isEmpty()) {
            return reach;
        }
        Set<String> all = new HashSet<>(reach);
        all.addAll(uses.askedOver());
        return all;
    }

    @Override
    public Optional<Set<String>> opened() {
        // A device may not start for anything that is open, wherever it is.
        return draws.isEmpty() ? Optional.of(predictor.reach(fed.inputs(), state)) : Optional.empty();
    }

    @Override
    public boolean underPower() {
        return true;
    }

    @Override
    public double of(List<Fault> faults) {
        List<Input> inputs = predictor.through(fed, state, faults);
        List<Powered> powered = powered(inputs, faults);
        for (Fault fault : faults) {
            if (!(fault instanceof Fault.Bridge)) {
                return of(inputs, powered, faults);
            }
        }
        return bridged.computeIfAbsent(new Left(powered, asks(faults)), k -> of(inputs, powered, faults));
    }

    /** The board at work, and where it may still wait for that, waiting. */
    private List<Powered> powered(List<Input> inputs, List<Fault> faults) {
        Powered atWork = predictor.power(inputs, known, state, faults);
        if (waiting.isEmpty() || levels.isEmpty()) {
            return List.of(atWork);
        }
        List<Fault> all = new ArrayList<>(faults);
        all.addAll(waiting);
        return List.of(atWork, predictor.power(inputs, known, state, all));
    }

    private double of(List<Input> inputs, List<Powered> powered, List<Fault> faults) {
        double sum = levels(powered.get(0), faults);
        if (powered.size() > 1) {
            double waits = levels(powered.get(1), faults);
            double top = Math.max(sum, waits);
            sum = top + Math.log((1 - NOT_STARTED) * Math.exp(sum - top) + NOT_STARTED * Math.exp(waits - top));
        }
        if (!draws.isEmpty()) {
            Regime regime = regime(inputs, powered.get(0), faults);
            for (Drawn drawn : draws) {
                sum += Math.log(drawn.probability(regime));
            }
        }
        return sum;
    }

    private double levels(Powered powered, List<Fault> faults) {
        double sum = 0;
        for (Level level : levels) {
            sum += of(level, powered, faults);
        }
        return sum;
    }

    @Override
    public double most() {
        double sum = 0;
        for (Level level : levels) {
            double absent = 2 * Density.normal(level.volts, 0, ABSENT_SIGMA_VOLTS);
            double density = Density.peak(level.volts, VOLTS_FLOOR, VOLTS_ACCURACY) + absent;
            // A level that nothing sets says nothing: its logarithm is 0.
            sum += Math.max(0, Math.log(Density.mixed(density, MeterQuestion.WRONG_READING, VOLTS_SPAN)));
        }
        for (Drawn drawn : draws) {
            sum += Math.log(Arrays.stream(Regime.values())
                    .mapToDouble(drawn::probability)
                    .max()
                    .orElseThrow());
        }
        return sum;
    }

    private double of(Level level, Powered powered, List<Fault> faults) {
        String net = level.net;
        double expected = level.to
                .map(to -> Math.abs(powered.volts(net) - powered.volts(to)))
                .orElseGet(() -> predictor.untold(net) ? untold(net, faults) : powered.volts(net));
        boolean gives = faults.stream().noneMatch(f -> f instanceof Fault.Open && tree.isBattery(f.target()));
        if (gives && ofTheCell(level)) {
            return 0;
        }
        if (!uses.switches(net).isEmpty() && !uses.resistive(net)) {
            return gate(level, faults, powered);
        }
        if (known.containsKey(net) && !uses.driven(net)) {
            return drive(level, faults, powered);
        }
        if (level.kind == NetKind.SIGNAL && !determined(net, expected)) {
            return 0;
        }
        if (level.kind == NetKind.SIGNAL && expected > LEAST_LOGIC_VOLTS && uses.driven(net)) {
            double logic = Density.smeared(level.volts, LEAST_LOGIC_VOLTS, MOST_LOGIC_VOLTS, ABSENT_SIGMA_VOLTS);
            return Math.log(Density.mixed(logic, NOT_ASKED_FOR, VOLTS_SPAN));
        }
        // A rail that nothing feeds still floats a few tenths of a volt up.
        double floor = expected < FLOATING_VOLTS ? FLOATING_VOLTS / 2 : VOLTS_FLOOR;
        double density = Density.normal(level.volts, expected, floor + VOLTS_ACCURACY * Math.abs(expected));
        double source = leaksThrough(level, powered, faults);
        if (source > Math.max(expected, FLOATING_VOLTS)) {
            double part = level.volts < source ? 1 / source : 0;
            density = (1 - HALF_OPEN) * density + HALF_OPEN * part;
        }
        double absent = 2 * Density.normal(level.volts, 0, ABSENT_SIGMA_VOLTS);
        double unasked = level.askedFor ? 0 : NOT_ASKED_FOR;
        return Math.log(
                Density.mixed((1 - unasked) * density + unasked * absent, MeterQuestion.WRONG_READING, VOLTS_SPAN));
    }

    /** An enable that comes from beyond the map is there, unless that is what is wrong. */
    private static double untold(String enable, List<Fault> faults) {
        return faults.contains(new Fault.Inactive(enable)) ? 0 : LOGIC_VOLTS;
    }

    /** With the cell in, its own net stands at its volts whatever the board does. */
    private boolean ofTheCell(Level level) {
        double own = board.net(level.net).orElseThrow().nominalVolts().orElse(0);
        return cellIsIn() && tree.ofBattery(level.net) && Math.abs(level.volts - own) < CELL_SHARE * own;
    }

    private boolean cellIsIn() {
        return state.battery() || fed.inputs().stream().anyMatch(i -> tree.ofBattery(i.net()));
    }

    /** What stands at the other end of a switch or series part that is open, volts; 0 where none is. */
    private double leaksThrough(Level level, Powered powered, List<Fault> faults) {
        if (level.kind != NetKind.POWER) {
            return 0;
        }
        return board.partsOn(level.net)
                .filter(p -> open(p, faults) && (board.role(p) == Role.PASS || board.role(p) == Role.SERIES))
                .flatMap(p -> board.powerNets(p).stream())
                .mapToDouble(powered::volts)
                .max()
                .orElse(0);
    }

    /** A gate that a chip drives: right while the chip lives and is fed. */
    private double gate(Level level, List<Fault> faults, Powered powered) {
        List<Part> switches = uses.switches(level.net);
        boolean toBattery =
                switches.stream().flatMap(p -> p.pins().stream()).anyMatch(pin -> tree.ofBattery(pin.net()));
        if (toBattery && (!cellIsIn() || fed.firstVolts())) {
            return 0;
        }
        boolean dead = faults.stream()
                .anyMatch(f -> (f instanceof Fault.Dead || f instanceof Fault.Inactive)
                        && (f.target().equals(level.net)
                                || board.partsOn(level.net)
                                        .anyMatch(p -> p.ref().equals(f.target()))));
        // One that has failed open is told to close like any.
        boolean closed = switches.stream().filter(p -> !open(p, faults)).allMatch(p -> {
            List<String> rails = board.powerNets(p);
            if (toBattery) {
                // Both its ends stand, by the cell: it should let the charge through.
                return rails.stream().anyMatch(n -> powered.volts(n) > 1);
            }
            double most = rails.stream().mapToDouble(powered::volts).max().orElse(0);
            double least = rails.stream().mapToDouble(powered::volts).min().orElse(0);
            return most > 1 && least > 0.9 * most;
        });
        double source = switches.stream()
                .flatMap(p -> board.powerNets(p).stream())
                .mapToDouble(powered::volts)
                .max()
                .orElse(0);
        boolean asked = AskedFor.closes(switches.get(0).gate().orElseThrow(), level.volts, source);
        boolean works = closed && !dead;
        return Math.log(asked == works ? GATE_RIGHT : 1 - GATE_RIGHT);
    }

    private static boolean open(Part part, List<Fault> faults) {
        return faults.stream()
                .anyMatch(f -> f instanceof Fault.Open && f.target().equals(part.ref()));
    }

    /** The measured gate of a small transistor: a chip on it that lives and is fed turns it on. */
    private double drive(Level level, List<Fault> faults, Powered powered) {
        List<Part> chips = board.partsOn(level.net)
                .filter(p -> p.kind() == PartKind.IC && state.has(p))
                .toList();
        if (chips.isEmpty()) {
            return 0;
        }
        boolean able = chips.stream()
                .anyMatch(chip -> faults.stream()
                                .noneMatch(f ->
                                        f instanceof Fault.Dead && f.target().equals(chip.ref()))
                        && tree.supplies(board, chip).stream().anyMatch(n -> powered.volts(n) > LEAST_LOGIC_VOLTS));
        boolean on = level.volts > LEAST_LOGIC_VOLTS;
        return Math.log(on == able ? GATE_RIGHT : 1 - GATE_RIGHT);
    }

    /** Whether the twin knows what sets a signal's level. */
    private boolean determined(String net, double expected) {
        return uses.driven(net)
                || uses.switching(net)
                || uses.pulledBy(net, known.keySet())
                || uses.resistive(net) && (expected > 0.02 || uses.throughToKnown(net));
    }

    private Regime regime(List<Input> inputs, Powered powered, List<Fault> faults) {
        if (inputs.isEmpty()) {
            return Regime.PATH_OPEN;
        }
        double nominal = inputs.stream().mapToDouble(Input::volts).max().orElse(5);
        double amps = powered.inputAmps().stream().mapToDouble(a -> a).sum();
        if (amps > 0.8 * inputs.get(0).limitAmps()) {
            return Regime.HEAVY;
        }
        if (!powered.overloaded().isEmpty()) {
            return Regime.OVERLOADED;
        }
        double rail =
                board.net(tree.mainRail()).map(n -> n.nominalVolts().orElse(3)).orElse(3.0);
        if (powered.volts(tree.mainRail()) < 0.5 * Math.min(nominal, rail)) {
            return Regime.PATH_OPEN;
        }
        // A controller that lets the port's power in as well shows first by what it does not let in.
        if (!asks(faults)) {
            return Regime.NOT_NEGOTIATED;
        }
        boolean stops = faults.stream().anyMatch(f -> !(f instanceof Fault.Bridge));
        return stops ? Regime.NOT_STARTING : Regime.HEALTHY;
    }

    /** Whether the chip that asks for more lives, and the lines that it asks over are free. */
    private boolean asks(List<Fault> faults) {
        return faults.stream()
                .filter(f -> predictor.present(f, state))
                .noneMatch(f -> f instanceof Fault.Dead && uses.negotiates(f.target())
                        || f instanceof Fault.Bridge b
                                && b.ohms() < LINE_IS_FREE_OHMS
                                && (uses.asksOver(b.netA()) || uses.asksOver(b.netB())));
    }

    /** What the board does with power, as the twin has it. */
    private enum Regime {
        HEALTHY,
        HEAVY,
        OVERLOADED,
        PATH_OPEN,
        NOT_NEGOTIATED,
        NOT_STARTING;

        /** How often a draw is seen in a regime; the trade's experience, with what is misread. */
        private static final Map<Regime, Map<Draw, Double>> SEEN = new EnumMap<>(Regime.class);

        static {
            SEEN.put(HEALTHY, seen(0.70, 0.06, 0.15, 0.06, 0.02, 0.01));
            SEEN.put(HEAVY, seen(0.02, 0.03, 0.05, 0.04, 0.72, 0.14));
            SEEN.put(OVERLOADED, seen(0.14, 0.04, 0.28, 0.09, 0.22, 0.23));
            SEEN.put(PATH_OPEN, seen(0.03, 0.50, 0.30, 0.14, 0.01, 0.02));
            SEEN.put(NOT_NEGOTIATED, seen(0.03, 0.09, 0.14, 0.72, 0.01, 0.01));
            SEEN.put(NOT_STARTING, seen(0.30, 0.10, 0.48, 0.08, 0.02, 0.02));
        }

        private static Map<Draw, Double> seen(
                double normal, double none, double stuck, double noNegotiation, double excessive, double pulsing) {
            return Map.of(
                    Draw.NORMAL, normal,
                    Draw.NONE, none,
                    Draw.STUCK, stuck,
                    Draw.NO_NEGOTIATION, noNegotiation,
                    Draw.EXCESSIVE, excessive,
                    Draw.PULSING, pulsing);
        }

        static double probability(Draw draw, Regime regime) {
            return SEEN.get(regime).get(draw);
        }
    }
}
