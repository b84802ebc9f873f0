package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.circuit.Meter;
import ohmoscope.core.circuit.PoweredTwin.Input;
import ohmoscope.core.diagnose.Feeding.Fed;
import ohmoscope.core.diagnose.Suspicion.Variant;
import ohmoscope.core.diagnose.Timeline.Moment;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.RunFinding;
import ohmoscope.core.reading.Says;

/**
 * How well a fault explains what was measured: log P(reading | twin with the fault), each with the meter's accuracy,
 * contact resistance, what good boards differ by, and a small chance that the entry is simply wrong.
 *
 * <p>Entries that one answer of the twin explains are one {@link Question}. A fault is only asked about at those that it
 * can change; at all others it explains what the good board explains. Time grows with distinct faults times the questions
 * that each can change, but for those that are out before all are asked (branch and bound).
 */
final class Likelihood {
    private static final double WEAK_OHMS = 500;

    private final List<Fault> given;
    private final Timeline timeline;
    private final BoardIndex board;
    private final Predictor predictor;
    private final List<Question> questions = new ArrayList<>();
    private final List<Double> good = new ArrayList<>();
    /** How much better than the good board any fault could explain each question. */
    private final List<Double> gains = new ArrayList<>();

    private final double allGood;
    private final double allGains;
    /** How much better than the good board a bridge at a net could explain all. */
    private final Map<String, Double> gainAt = new HashMap<>();
    /** Questions that any open part can change. */
    private final BitSet everywhere = new BitSet();
    /** Questions that a chip can change by doing nothing. */
    private final BitSet powered = new BitSet();

    private final Map<String, BitSet> near = new HashMap<>();
    private final Map<String, BitSet> nearOpen = new HashMap<>();
    private final Map<List<Fault>, Sum> sums = new HashMap<>();
    /** Targets of changes: for these it matters which part has the fault. */
    private final Set<String> touched = new HashSet<>();

    /** Nets that some reading can see. */
    private final Set<String> probed = new HashSet<>();

    /** @param given faults that were measured: they are there whatever else is */
    Likelihood(Timeline timeline, NetUses uses, Predictor predictor, List<Fault> given) {
        this.given = List.copyOf(given);
        this.timeline = timeline;
        this.board = timeline.board();
        this.predictor = predictor;
        timeline.all(Change.class).forEach(c -> touched.add(c.target()));
        boolean wide = timeline.all(Change.class)
                .anyMatch(c ->
                        c.target().equals(Timeline.PERIPHERALS) || c.target().startsWith(Change.STACK));
        if (wide) {
            board.parts().forEach(p -> touched.add(p.ref()));
        }
        meters();
        injections();
        Feeding feeding = new Feeding(timeline);
        powered(uses, feeding);
        behaved(feeding);
        index();
        allGood = good.stream().mapToDouble(v -> v).sum();
        allGains = gains.stream().mapToDouble(v -> v).sum();
        near.forEach((net, asked) ->
                gainAt.put(net, asked.stream().mapToDouble(gains::get).sum()));
    }

    /** No less than {@link #of} would say, without asking anything. */
    double most(Variant variant) {
        double most = allGood;
        for (Fault fault : variant.faults()) {
            if (!(fault instanceof Bridge b)) {
                return allGood + allGains;
            }
            most += gainAt.getOrDefault(b.netA(), 0.0) + gainAt.getOrDefault(b.netB(), 0.0);
        }
        return most;
    }

    private record Weighed(Question question, double good, double gain) {}

    /** Which faults each question is about, those first that a fault could explain best. */
    private void index() {
        List<Weighed> weighed = new ArrayList<>();
        for (Question question : questions) {
            double asGood = question.of(given);
            weighed.add(new Weighed(question, asGood, question.most() - asGood));
        }
        weighed.sort(Comparator.comparingDouble(w -> -w.gain));
        questions.clear();
        for (int i = 0; i < weighed.size(); i++) {
            Question question = weighed.get(i).question;
            questions.add(question);
            good.add(weighed.get(i).good);
            gains.add(Math.max(0, weighed.get(i).gain));
            powered.set(i, question.underPower());
            put(Optional.of(question.nets()), near, i);
            put(question.opened(), nearOpen, i);
            everywhere.set(i, question.opened().isEmpty());
        }
    }

    private static void put(Optional<Set<String>> nets, Map<String, BitSet> near, int index) {
        nets.stream()
                .flatMap(Set::stream)
                .forEach(n -> near.computeIfAbsent(n, k -> new BitSet()).set(index));
    }

    private record Point(Meter meter, BoardState state) {}

    private void meters() {
        Map<Point, List<Read>> points = new LinkedHashMap<>();
        Set<Meter> metered = new HashSet<>();
        Set<String> fed = new HashSet<>();
        for (Moment moment : timeline.moments()) {
            if (moment.observation() instanceof Read read) {
                Optional<Meter> meter = meterOf(read);
                boolean unpowered =
                        read.mode() != ReadMode.VOLTS && read.power().isEmpty();
                if (unpowered) {
                    meter.filter(metered::add).ifPresent(m -> probed.addAll(predictor.bridged(m, BoardState.WHOLE)));
                } else {
                    meter.map(Meter::net)
                            .filter(fed::add)
                            .ifPresent(net -> probed.addAll(predictor.island(net, BoardState.WHOLE)));
                }
                if (meter.isPresent() && unpowered) {
                    points.computeIfAbsent(new Point(meter.get(), moment.state()), k -> new ArrayList<>())
                            .add(read);
                }
            }
        }
        points.forEach((point, reads) -> questions.add(new MeterQuestion(
                point.meter, point.state, reads, reads.stream().allMatch(timeline::confirmed), predictor)));
    }

    private void injections() {
        Map<Integer, Says> signs = new HashMap<>();
        new SignReader(timeline).read().forEach(s -> signs.put(s.seq(), s.says()));
        for (Moment moment : timeline.moments()) {
            Optional<Inject> injected = moment.observation() instanceof Power power
                    ? SignReader.asInjection(board, power)
                    : Optional.of(moment.observation())
                            .filter(Inject.class::isInstance)
                            .map(Inject.class::cast);
            if (injected.isEmpty()) {
                continue;
            }
            Inject inject = injected.get();
            if (board.net(inject.net()).isPresent()) {
                probed.addAll(predictor.island(inject.net(), BoardState.WHOLE));
            }
            Says says = signs.get(inject.seq());
            boolean tells = says != null
                    && says != Says.NO_CONTACT
                    && says != Says.INTO_GROUND
                    && inject.shape().isEmpty();
            if (tells) {
                questions.add(new InjectQuestion(inject, moment.state(), predictor));
            }
        }
    }

    private record Circuit(Fed fed, Map<String, Double> known, BoardState state) {}

    private void powered(NetUses uses, Feeding feeding) {
        Map<Circuit, PoweredQuestion> circuits = new LinkedHashMap<>();
        for (Moment moment : timeline.moments()) {
            Fed fed = feeding.of(moment.seq());
            if (moment.observation() instanceof Power power) {
                circuit(circuits, uses, new Circuit(fed, Map.of(), moment.state()))
                        .add(power);
            } else if (moment.observation() instanceof Read read
                    && read.mode() == ReadMode.VOLTS
                    && read.value().isPresent()
                    && read.across().isEmpty()
                    && !timeline.underInjection(read)) {
                timeline.netOf(read)
                        .filter(n -> board.net(n).isPresent())
                        .ifPresent(net -> circuit(
                                        circuits, uses, new Circuit(fed, feeding.gates(moment.epoch()), moment.state()))
                                .add(read, net, feeding.levels(moment.epoch())));
            }
        }
        questions.addAll(circuits.values());
    }

    /** Whether it ran when it was last tried, and whether it charged, on what it then had. */
    private void behaved(Feeding feeding) {
        Fed fed = Fed.NOTHING;
        int ranIn = -1;
        Optional<RunQuestion> ran = Optional.empty();
        Optional<ChargeQuestion> charged = Optional.empty();
        for (Moment moment : timeline.moments()) {
            if (moment.observation() instanceof Power power) {
                fed = power.from() == PowerSource.CHARGER ? feeding.of(power.seq()) : Fed.NOTHING;
            } else if (moment.observation() instanceof Run run) {
                RunFinding finding = run.finding();
                if (RunQuestion.runs(finding)) {
                    List<Input> battery = moment.state().battery() ? feeding.battery() : List.of();
                    ran = RunQuestion.of(fed, battery, moment.state(), predictor, timeline.tree());
                    ranIn = moment.epoch();
                } else if (RunQuestion.stops(finding) || ranIn != moment.epoch()) {
                    ran = Optional.empty();
                }
                boolean charges = finding == RunFinding.CHARGES;
                if ((charges || finding == RunFinding.DOES_NOT_CHARGE)
                        && moment.state().battery()) {
                    charged = ChargeQuestion.of(charges, fed, moment.state(), predictor, timeline);
                }
            }
        }
        ran.ifPresent(questions::add);
        charged.ifPresent(questions::add);
    }

    private PoweredQuestion circuit(Map<Circuit, PoweredQuestion> circuits, NetUses uses, Circuit circuit) {
        return circuits.computeIfAbsent(
                circuit, c -> new PoweredQuestion(timeline, uses, predictor, c.fed, c.known, c.state));
    }

    /** @param whole whether every question was asked; else no more than {@code value} was left */
    private record Sum(double value, boolean whole) {}

    /**
     * Log-likelihood of every electrical entry, natural logarithm. Faults that are the same to the circuit, such as any
     * of forty capacitors on one rail, are worked out once, and those that no entry can see cost nothing.
     *
     * @param enough below this a fault is out: no more is asked then, and what is returned is a bound below it
     */
    double of(Variant variant, double enough) {
        List<Fault> seen = new ArrayList<>(variant.faults().size());
        for (Fault fault : variant.faults()) {
            if (visible(fault)) {
                seen.add(anonymous(fault));
            }
        }
        if (seen.isEmpty()) {
            return allGood;
        }
        Sum known = sums.get(seen);
        if (known == null || !known.whole && known.value > enough) {
            BitSet asked = new BitSet(questions.size());
            variant.faults().stream().filter(this::visible).forEach(f -> ask(f, asked));
            known = sum(seen, asked, enough);
            sums.put(seen, known);
        }
        return known.value;
    }

    /** Adds the questions whose answer a fault can change. */
    private void ask(Fault fault, BitSet asked) {
        if (fault instanceof Bridge b) {
            ask(near, b.netA(), asked);
            ask(near, b.netB(), asked);
        } else if (fault instanceof Open open) {
            asked.or(everywhere);
            // What conducted nothing, such as a resistor whose value nobody states, changes no reading.
            board.part(open.target()).stream()
                    .filter(part -> predictor.conducts(open) || timeline.tree().isBattery(part.ref()))
                    .flatMap(part -> part.pins().stream())
                    .forEach(pin -> ask(nearOpen, pin.net(), asked));
        } else {
            asked.or(powered);
        }
    }

    private static void ask(Map<String, BitSet> near, String net, BitSet asked) {
        BitSet there = near.get(net);
        if (there != null) {
            asked.or(there);
        }
    }

    private Sum sum(List<Fault> faults, BitSet asked, double enough) {
        List<Fault> all = new ArrayList<>(given);
        all.addAll(faults);
        double sum = allGood;
        double left = asked.stream().mapToDouble(gains::get).sum();
        for (int i = asked.nextSetBit(0); i >= 0; i = asked.nextSetBit(i + 1)) {
            if (sum + left < enough) {
                return new Sum(sum + left, false);
            }
            left -= gains.get(i);
            sum += questions.get(i).of(all) - good.get(i);
        }
        return new Sum(sum, true);
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
                || b.ohms() < WEAK_OHMS && (near.containsKey(b.netA()) || near.containsKey(b.netB()))
                || probed.contains(b.netA())
                || probed.contains(b.netB());
    }

    private Optional<Meter> meterOf(Read read) {
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
                // From a leg to its own net: that asks the joint, not the circuit.
                .filter(n -> read.to().filter(n::equals).isEmpty())
                .flatMap(n -> read.to().filter(t -> board.net(t).isEmpty()).isPresent()
                        ? Optional.empty()
                        : Optional.of(new Meter(mode, n, read.to().orElse(board.ground()), redOnGround)));
    }
}
