package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Gate.OnWhen;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Role;
import ohmoscope.core.circuit.Band;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.circuit.Meter;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.circuit.PoweredTwin.Input;
import ohmoscope.core.circuit.PoweredTwin.Powered;
import ohmoscope.core.circuit.Twin.Injected;
import ohmoscope.core.diagnose.Sign.Says;
import ohmoscope.core.diagnose.Suspicion.Variant;
import ohmoscope.core.diagnose.Timeline.Moment;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;

/**
 * How well a fault explains what was measured: log P(reading | twin with the fault), each with the meter's accuracy,
 * contact resistance, what good boards differ by, and a small chance that the entry is simply wrong.
 */
final class Likelihood {
    /** The chance that a number was misread, or the probe was not where it should have been. */
    private static final double WRONG_READING = 0.02;

    private static final double WRONG_INJECTION = 0.05;
    /** A meter's leads and contact, ohms. */
    private static final double CONTACT_OHMS = 0.12;

    private static final double OHMS_ACCURACY = 0.1;
    private static final double OHMS_OFFSET = 0.3;
    /** Below it a meter beeps. */
    static final double BEEP_OHMS = 40;

    private static final double BEEP_RIGHT = 0.96;
    private static final double TOP_OHMS = 40e6;
    private static final double DIODE_ACCURACY = 0.04;
    private static final double DIODE_FLOOR_VOLTS = 0.008;
    private static final double DIODE_TOP_VOLTS = 2.3;
    private static final double VOLTS_ACCURACY = 0.05;
    private static final double VOLTS_FLOOR = 0.08;
    private static final double FLOATING_VOLTS = 0.4;
    private static final double NOT_CONDUCTING_OHMS = 500;
    /** A rail that must first be asked for may not have been. */
    private static final double NOT_ASKED_FOR = 0.3;

    private static final double WEAK_OHMS = 500;
    private static final double ACTIVE_VOLTS = 0.9;
    private static final double CHARGER_LIMIT_AMPS = 3.3;
    private static final double BENCH_LIMIT_AMPS = 5;

    private final Timeline timeline;
    private final BoardIndex board;
    private final PowerTree tree;
    private final Predictor predictor;
    private final String ground;
    private final Set<String> gates = new HashSet<>();
    private final Set<String> resistive = new HashSet<>();
    private final Set<String> driven = new HashSet<>();
    private final Set<String> negotiators = new HashSet<>();
    private final Map<List<Fault>, Double> sums = new HashMap<>();
    /** Targets of changes: for these it matters which part has the fault. */
    private final Set<String> touched = new HashSet<>();
    /** Nets that some reading can see. */
    private final Set<String> probed = new HashSet<>();

    private final Map<Integer, Says> signs = new HashMap<>();
    private final Map<Integer, Map<String, Double>> known = new HashMap<>();
    /** Every level measured under power, by circuit. */
    private final Map<Integer, Map<String, Double>> active = new HashMap<>();

    private final Map<Integer, List<Input>> inputs = new HashMap<>();
    private final Map<Integer, String> ports = new HashMap<>();

    Likelihood(Timeline timeline, Predictor predictor) {
        this.timeline = timeline;
        this.board = timeline.board();
        this.tree = timeline.tree();
        this.predictor = predictor;
        this.ground = board.ground();
        new SignReader(timeline).read().forEach(s -> signs.put(s.seq(), s.says()));
        follow();
        sortNets();
        timeline.all(Change.class).forEach(c -> touched.add(c.target()));
        boolean wide = timeline.all(Change.class)
                .anyMatch(c ->
                        c.target().equals(Timeline.PERIPHERALS) || c.target().startsWith("stack:"));
        if (wide) {
            board.parts().forEach(p -> touched.add(p.ref()));
        }
        timeline.all(Read.class)
                .forEach(r -> meterOf(r).ifPresent(m -> {
                    probed.addAll(predictor.island(m.net(), BoardState.WHOLE));
                    probed.addAll(predictor.island(m.to(), BoardState.WHOLE));
                }));
        timeline.all(Inject.class)
                .filter(i -> board.net(i.net()).isPresent())
                .forEach(i -> probed.addAll(predictor.island(i.net(), BoardState.WHOLE)));
    }

    /** What each net is for, asked thousands of times. */
    private void sortNets() {
        for (Part part : board.parts()) {
            part.gate().ifPresent(g -> gates.add(g.net()));
            if (part.kind() == PartKind.RESISTOR) {
                part.pins().forEach(p -> resistive.add(p.net()));
            }
            part.supplies().stream().flatMap(s -> s.enable().stream()).forEach(enable -> {
                driven.add(enable);
                board.partsOn(enable)
                        .filter(p -> p.kind() == PartKind.RESISTOR)
                        .forEach(p -> p.pins().forEach(pin -> driven.add(pin.net())));
            });
            if (board.role(part) == Role.PORT_CONTROLLER) {
                negotiators.add(part.ref());
            }
        }
    }

    /** What feeds the board at each powered entry, and which driving levels were measured in the same circuit. */
    private void follow() {
        List<Input> feeding = List.of();
        String port = "";
        Map<Integer, Map<String, Double>> levels = new HashMap<>();
        for (Moment moment : timeline.moments()) {
            if (moment.observation() instanceof Read read
                    && read.mode() == ReadMode.VOLTS
                    && read.value().isPresent()) {
                timeline.netOf(read).ifPresent(n -> {
                    double volts = read.value().getAsDouble();
                    active.computeIfAbsent(moment.epoch(), k -> new HashMap<>()).put(n, volts);
                    if (gateOfSmallFet(n)) {
                        levels.computeIfAbsent(moment.epoch(), k -> new HashMap<>())
                                .put(n, volts);
                    }
                });
            }
        }
        for (Moment moment : timeline.moments()) {
            known.put(moment.epoch(), levels.getOrDefault(moment.epoch(), Map.of()));
            if (moment.observation() instanceof Power power) {
                port = power.port()
                        .orElseGet(() -> tree.inputs().stream()
                                .map(Part::ref)
                                .findFirst()
                                .orElse(""));
                feeding = feeding(power);
                inputs.put(power.seq(), feeding);
                ports.put(power.seq(), port);
            } else if (moment.observation() instanceof Read read && read.mode() == ReadMode.VOLTS) {
                List<Input> here = feeding.isEmpty() ? usual(read.power().orElse(PowerSource.CHARGER)) : feeding;
                inputs.put(read.seq(), here);
                ports.put(read.seq(), port);
            }
        }
    }

    private boolean gateOfSmallFet(String net) {
        return board.partsOn(net)
                .anyMatch(p -> board.role(p) == Role.DRIVE
                        && p.pins().stream()
                                .anyMatch(pin ->
                                        pin.net().equals(net) && pin.name().equalsIgnoreCase("G")));
    }

    private List<Input> feeding(Power power) {
        double limit = power.from() == PowerSource.CHARGER ? CHARGER_LIMIT_AMPS : BENCH_LIMIT_AMPS;
        if (power.net().isPresent() && board.net(power.net().get()).isPresent()) {
            return List.of(new Input(power.net().get(), power.volts().orElse(1), limit));
        }
        if (power.from() == PowerSource.BATTERY) {
            return battery();
        }
        Optional<Part> port = power.port()
                .flatMap(board::part)
                .or(() -> tree.inputs().stream().findFirst());
        double nominal = Draw.nominal(board, port, port.flatMap(Part::expects));
        boolean pulledDown =
                Draw.of(board, tree, power).map(d -> d == Draw.EXCESSIVE).orElse(false);
        double volts = pulledDown
                ? Math.max(nominal, power.volts().orElse(nominal))
                : power.volts().orElse(nominal);
        List<Input> feeding = new ArrayList<>(port.stream()
                .flatMap(p -> board.powerNets(p).stream())
                .map(n -> new Input(n, volts, limit))
                .toList());
        return feeding;
    }

    private List<Input> usual(PowerSource source) {
        if (source == PowerSource.BATTERY) {
            return battery();
        }
        Optional<Part> port = tree.inputs().stream().findFirst();
        double nominal = Draw.nominal(board, port, port.flatMap(Part::expects));
        return port.stream()
                .flatMap(p -> board.powerNets(p).stream())
                .map(n -> new Input(n, nominal, BENCH_LIMIT_AMPS))
                .toList();
    }

    private List<Input> battery() {
        return tree.battery().stream()
                .flatMap(p -> board.powerNets(p).stream())
                .map(n -> new Input(n, board.net(n).orElseThrow().nominalVolts().orElse(4), BENCH_LIMIT_AMPS))
                .toList();
    }

    /**
     * Log-likelihood of every electrical entry, natural logarithm. Faults that are the same to the circuit, such as any
     * of forty capacitors on one rail, are worked out once.
     */
    double of(Variant variant) {
        List<Fault> seen = variant.faults().stream()
                .map(this::anonymous)
                .filter(this::visible)
                .toList();
        return sums.computeIfAbsent(seen, faults -> {
            double sum = 0;
            for (Moment moment : timeline.moments()) {
                sum += of(moment, faults);
            }
            return sum;
        });
    }

    /** A bridge on a part that stays on the board throughout might be on any other. */
    private Fault anonymous(Fault fault) {
        return fault instanceof Bridge b && !touched.contains(b.target())
                ? new Bridge(Predictor.SOMEWHERE, b.netA(), b.netB(), b.ohms())
                : fault;
    }

    /** A weak leak far from every probe shows nowhere. */
    private boolean visible(Fault fault) {
        return !(fault instanceof Bridge b)
                || b.ohms() < WEAK_OHMS
                || probed.contains(b.netA())
                || probed.contains(b.netB());
    }

    private double of(Moment moment, List<Fault> faults) {
        if (moment.observation() instanceof Read read) {
            return read.mode() == ReadMode.VOLTS ? volts(read, moment, faults) : meter(read, moment.state(), faults);
        }
        if (moment.observation() instanceof Inject inject) {
            return inject(inject, moment.state(), faults);
        }
        if (moment.observation() instanceof Power power) {
            return power(power, moment, faults);
        }
        return 0;
    }

    private double meter(Read read, BoardState state, List<Fault> faults) {
        Optional<Meter> meter = meterOf(read);
        if (meter.isEmpty() || read.power().isPresent()) {
            return 0;
        }
        double value = read.value().orElse(Double.POSITIVE_INFINITY);
        Band band = predictor.read(meter.get(), state, faults);
        if (read.mode() == ReadMode.CONTINUITY && (value == 0 || value == 1)) {
            return Math.log(beeps(band) == (value == 1) ? BEEP_RIGHT : 1 - BEEP_RIGHT);
        }
        return Math.log(density(meter.get().mode(), value, read.across().isPresent() ? apart(band) : band));
    }

    private static boolean beeps(Band band) {
        return Math.sqrt(Math.max(band.low(), 1e-3) * Math.min(band.high(), TOP_OHMS)) < BEEP_OHMS;
    }

    /** Across a part that does not conduct a meter sees what else joins its ends: anything from a little to nothing. */
    private static Band apart(Band band) {
        return band.low() > NOT_CONDUCTING_OHMS ? new Band(band.low() / 3, Double.POSITIVE_INFINITY) : band;
    }

    Optional<Meter> meterOf(Read read) {
        Meter.Mode mode = read.mode() == ReadMode.DIODE ? Meter.Mode.DIODE_VOLTS : Meter.Mode.OHMS;
        boolean redOnGround = read.lead().map(l -> !l.startsWith("black")).orElse(true);
        if (read.across().isPresent()) {
            return board.part(read.across().get()).flatMap(p -> {
                List<String> nets =
                        p.pins().stream().map(pin -> pin.net()).distinct().toList();
                return nets.size() < 2
                        ? Optional.empty()
                        : Optional.of(new Meter(mode, nets.get(0), nets.get(1), redOnGround));
            });
        }
        return timeline.netOf(read)
                .filter(n -> board.net(n).isPresent() && !board.isGround(n))
                .flatMap(n -> read.to().filter(t -> board.net(t).isEmpty()).isPresent()
                        ? Optional.empty()
                        : Optional.of(new Meter(mode, n, read.to().orElse(ground), redOnGround)));
    }

    /** Density of a meter's value when good boards would show {@code band}. */
    private static double density(Meter.Mode mode, double value, Band band) {
        if (mode == Meter.Mode.DIODE_VOLTS) {
            double x = Math.min(value, DIODE_TOP_VOLTS);
            double low = Math.min(band.low(), DIODE_TOP_VOLTS);
            double high = Math.min(band.high(), DIODE_TOP_VOLTS);
            double sigma = DIODE_FLOOR_VOLTS + DIODE_ACCURACY * Math.min(x, high);
            return mixed(smeared(x, low, high, sigma), WRONG_READING, DIODE_TOP_VOLTS);
        }
        double x = Math.log(Math.min(value, TOP_OHMS) + OHMS_OFFSET);
        double low = Math.log(Math.min(band.low(), TOP_OHMS) + OHMS_OFFSET);
        double high = Math.log(Math.min(band.high(), TOP_OHMS) + OHMS_OFFSET);
        double sigma = Math.hypot(OHMS_ACCURACY, CONTACT_OHMS / (Math.min(band.low(), TOP_OHMS) + OHMS_OFFSET));
        return mixed(smeared(x, low, high, sigma), WRONG_READING, Math.log(TOP_OHMS / OHMS_OFFSET));
    }

    private static double mixed(double density, double wrong, double span) {
        return (1 - wrong) * density + wrong / span;
    }

    /** A uniform band with Gaussian edges. */
    private static double smeared(double x, double low, double high, double sigma) {
        double width = high - low;
        if (width < 0.05 * sigma) {
            double z = (x - (low + high) / 2) / sigma;
            return Math.exp(-0.5 * z * z) / (sigma * Math.sqrt(2 * Math.PI));
        }
        return (phi((x - low) / sigma) - phi((x - high) / sigma)) / width;
    }

    /** The normal distribution, by the logistic approximation of Bowling et al. 2009; within 1.4e-4. */
    private static double phi(double z) {
        return 1 / (1 + Math.exp(-0.07056 * z * z * z - 1.5976 * z));
    }

    private double inject(Inject inject, BoardState state, List<Fault> faults) {
        Says says = signs.get(inject.seq());
        if (says == null
                || says == Says.NO_CONTACT
                || says == Says.INTO_GROUND
                || inject.shape().isPresent()) {
            return 0;
        }
        double lead = Math.max(1e-3, inject.leadOhms().orElse(SignReader.USUAL_LEAD_OHMS));
        double set = inject.setVolts().orElse(inject.volts().getAsDouble());
        double limit = inject.limitAmps().orElse(Math.max(1, 1.2 * inject.amps().getAsDouble()));
        Injected predicted = predictor.inject(inject.net(), set, Math.max(1e-3, limit), lead, state, faults);
        double measured =
                inject.volts().getAsDouble() / Math.max(1e-4, inject.amps().getAsDouble());
        double expected = predicted.volts() / Math.max(1e-4, predicted.amps());
        double copper = inject.leadOhms().isPresent() ? 0.006 : 0.03;
        double sigma = Math.hypot(expected > 5 ? 1.5 : 0.12, copper / (expected + 0.01));
        double z = (Math.log(measured + 0.01) - Math.log(expected + 0.01)) / sigma;
        double density = Math.exp(-0.5 * z * z) / (sigma * Math.sqrt(2 * Math.PI));
        return Math.log(mixed(density, WRONG_INJECTION, 14));
    }

    private double volts(Read read, Moment moment, List<Fault> faults) {
        Optional<String> net = timeline.netOf(read);
        if (net.isEmpty()
                || read.value().isEmpty()
                || read.across().isPresent()
                || board.net(net.get()).isEmpty()) {
            return 0;
        }
        List<Input> feeding = fed(moment, faults);
        Powered powered = predictor.power(feeding, known.get(moment.epoch()), moment.state(), faults);
        double value = read.value().getAsDouble();
        double expected = powered.volts(net.get());
        if (read.to().filter(t -> board.net(t).isPresent()).isPresent()) {
            expected = Math.abs(expected - powered.volts(read.to().get()));
        }
        double span = 30;
        if (gateOfSwitch(net.get()) && !resistive(net.get())) {
            return gate(net.get(), value, faults, moment, powered);
        }
        if (board.net(net.get()).orElseThrow().kind() == NetKind.SIGNAL && !determined(net.get(), expected)) {
            return 0;
        }
        if (board.net(net.get()).orElseThrow().kind() == NetKind.SIGNAL && expected > 1.2 && driven(net.get())) {
            return Math.log(mixed(smeared(value, 1.2, 5.2, 0.15), NOT_ASKED_FOR, span));
        }
        // A rail that nothing feeds still floats a few tenths of a volt up.
        double floor = expected < FLOATING_VOLTS ? FLOATING_VOLTS / 2 : VOLTS_FLOOR;
        double sigma = floor + VOLTS_ACCURACY * Math.abs(expected);
        double z = (value - expected) / sigma;
        double density = Math.exp(-0.5 * z * z) / (sigma * Math.sqrt(2 * Math.PI));
        double off = value / 0.15;
        double absent = Math.exp(-0.5 * off * off) / (0.15 * Math.sqrt(2 * Math.PI)) * 2;
        double asked = askedFor(net.get(), moment) ? NOT_ASKED_FOR : 0;
        return Math.log(mixed((1 - asked) * density + asked * absent, WRONG_READING, span));
    }

    private boolean gateOfSwitch(String net) {
        return gates.contains(net);
    }

    private boolean resistive(String net) {
        return resistive.contains(net);
    }

    /** A gate that a chip drives: right while the chip lives and is fed. */
    private double gate(String net, double value, List<Fault> faults, Moment moment, Powered powered) {
        List<Part> switches = board.parts().stream()
                .filter(p -> p.gate().map(g -> g.net().equals(net)).orElse(false))
                .toList();
        boolean toBattery = switches.stream()
                .flatMap(p -> p.pins().stream())
                .anyMatch(pin -> tree.battery().map(b -> b.touches(pin.net())).orElse(false));
        if (toBattery) {
            return 0;
        }
        boolean dead = faults.stream()
                .anyMatch(f -> (f instanceof Fault.Dead || f instanceof Fault.Inactive)
                        && (f.target().equals(net)
                                || board.partsOn(net).anyMatch(p -> p.ref().equals(f.target()))));
        boolean closed = switches.stream().allMatch(p -> {
            List<String> rails = board.powerNets(p);
            double most = rails.stream().mapToDouble(powered::volts).max().orElse(0);
            double least = rails.stream().mapToDouble(powered::volts).min().orElse(0);
            return most > 1 && least > 0.9 * most;
        });
        double source = switches.stream()
                .flatMap(p -> board.powerNets(p).stream())
                .mapToDouble(powered::volts)
                .max()
                .orElse(0);
        boolean high = switches.get(0).gate().orElseThrow().onWhen() == OnWhen.HIGH;
        boolean asked = high ? value > Math.max(2.5, source + 1) : value < 0.6 * source;
        boolean works = closed && !dead;
        return Math.log(asked == works ? 0.85 : 0.15);
    }

    /** Whether the twin knows what sets a signal's level. */
    private boolean determined(String net, double expected) {
        return driven(net) || resistive(net) && expected > 0.02 || resistive(net) && throughToKnown(net);
    }

    private boolean throughToKnown(String net) {
        return board.partsOn(net)
                .filter(p -> p.kind() == PartKind.RESISTOR)
                .flatMap(p -> p.pins().stream())
                .anyMatch(pin -> board.net(pin.net()).orElseThrow().kind() != NetKind.SIGNAL);
    }

    private boolean driven(String net) {
        return driven.contains(net);
    }

    /** Whether a rail waits for an enable that nobody has measured to be active. */
    private boolean askedFor(String net, Moment moment) {
        Map<String, Double> measured = active.getOrDefault(moment.epoch(), Map.of());
        return tree.pathTo(net).stream()
                .filter(f -> f.kind() == PowerTree.Kind.CONVERTS)
                .flatMap(f -> f.enable().stream())
                .anyMatch(e -> measured.getOrDefault(e, 0.0) < ACTIVE_VOLTS);
    }

    /** The inputs with what a damaged port lets through. */
    private List<Input> fed(Moment moment, List<Fault> faults) {
        int seq = moment.seq();
        List<Input> feeding = inputs.getOrDefault(seq, List.of());
        String port = ports.getOrDefault(seq, "");
        boolean cut = faults.stream()
                .anyMatch(f ->
                        f instanceof Open && f.target().equals(port) && Predictor.present(f, moment.state(), board));
        return cut ? List.of() : feeding;
    }

    private double power(Power power, Moment moment, List<Fault> faults) {
        Optional<Draw> seen = Draw.of(board, tree, power);
        if (seen.isEmpty() || seen.get() == Draw.UNCLEAR || power.from() == PowerSource.BATTERY) {
            return 0;
        }
        return Math.log(Regime.probability(seen.get(), regime(moment, faults)));
    }

    private Regime regime(Moment moment, List<Fault> faults) {
        List<Input> feeding = fed(moment, faults);
        if (feeding.isEmpty()) {
            return Regime.PATH_OPEN;
        }
        boolean deadNegotiator =
                faults.stream().anyMatch(f -> f instanceof Fault.Dead && negotiators.contains(f.target()));
        if (deadNegotiator) {
            return Regime.NOT_NEGOTIATED;
        }
        double nominal = feeding.stream().mapToDouble(Input::volts).max().orElse(5);
        Powered powered = predictor.power(feeding, Map.of(), moment.state(), faults);
        double amps = powered.inputAmps().stream().mapToDouble(a -> a).sum();
        if (amps > 0.8 * feeding.get(0).limitAmps()) {
            return Regime.HEAVY;
        }
        if (!powered.overloaded().isEmpty()) {
            return Regime.OVERLOADED;
        }
        double least = 0.5
                * Math.min(
                        nominal,
                        board.net(tree.mainRail())
                                .flatMap(n -> Optional.of(n.nominalVolts().orElse(3)))
                                .orElse(3.0));
        if (powered.volts(tree.mainRail()) < least) {
            return Regime.PATH_OPEN;
        }
        boolean stops = faults.stream()
                .anyMatch(f -> f instanceof Fault.Dead || f instanceof Fault.Inactive || f instanceof Open);
        return stops ? Regime.NOT_STARTING : Regime.HEALTHY;
    }

    /** What the board does with power, as the twin has it. */
    private enum Regime {
        HEALTHY(0.70, 0.06, 0.15, 0.06, 0.02, 0.01),
        HEAVY(0.02, 0.03, 0.05, 0.04, 0.72, 0.14),
        OVERLOADED(0.14, 0.04, 0.28, 0.09, 0.22, 0.23),
        PATH_OPEN(0.03, 0.50, 0.30, 0.14, 0.01, 0.02),
        NOT_NEGOTIATED(0.03, 0.09, 0.14, 0.72, 0.01, 0.01),
        NOT_STARTING(0.30, 0.10, 0.48, 0.08, 0.02, 0.02);

        private final double[] seen;

        /** In the order of {@link Draw}. */
        Regime(double... seen) {
            this.seen = seen;
        }

        static double probability(Draw draw, Regime regime) {
            return regime.seen[draw.ordinal()];
        }
    }
}
