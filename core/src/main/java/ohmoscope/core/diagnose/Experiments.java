package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.circuit.Band;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.Meter;
import ohmoscope.core.diagnose.Diagnosis.Weighted;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Outcome;
import ohmoscope.core.diagnose.Step.Outcome.Class;
import ohmoscope.core.diagnose.Step.Reason;
import ohmoscope.core.evidence.Observation.ReadMode;

/**
 * Readings that could be taken, each with what it would tell: the expected information (mutual information of fault and
 * outcome, in nats; Lindley 1956) for its minutes. Only fault forms that matter are asked about.
 */
final class Experiments {
    /** Forms less likely than this change no decision. */
    private static final double MATTERS = 0.001;

    /** Nor do all of a fault's together that are less likely than this. */
    private static final double NEVER_MATTERS = MATTERS / 100;

    /** A meter shows over range from about here. */
    private static final double NOTHING_CONDUCTS_VOLTS = 1.5;

    private static final int MOST_FORMS = 150;
    /** In ln ohms. */
    private static final double NEARLY = 0.8;

    private static final double READ_MINUTES = 1;
    /** A reading that tells less than this is not worth naming. */
    private static final double WORTH_NATS = 0.02;

    /** Of a reading's own errors: the chance of landing in the class beside. */
    private static final double BLUR = 0.04;

    private final Timeline timeline;
    private final RailBook book;
    private final Predictor predictor;
    private final String ground;
    private final List<Weighted> forms;
    private final List<Worth> readings;

    /** A reading with its worth, nats a minute. */
    record Worth(Step step, double natsPerMinute) {}

    Experiments(Timeline timeline, RailBook book, Predictor predictor, Diagnosis diagnosis, String ground) {
        this.timeline = timeline;
        this.book = book;
        this.predictor = predictor;
        this.ground = ground;
        this.forms = gathered(diagnosis.likelier(MATTERS)).stream()
                .filter(w -> w.probability() > MATTERS)
                .sorted(Comparator.comparingDouble(Weighted::probability).reversed())
                .limit(MOST_FORMS)
                .toList();
        this.readings = weigh();
    }

    /** Forms of a fault whose ohms are nearly the same ask for the same reading: one stands for them. */
    private static List<Weighted> gathered(List<Weighted> forms) {
        Map<List<Object>, Weighted> gathered = new LinkedHashMap<>();
        for (Weighted form : forms) {
            if (form.probability() < NEVER_MATTERS) {
                continue;
            }
            List<Object> key = List.of(
                    form.suspicion().code(),
                    form.suspicion().target(),
                    FaultOhms.withOhms(form.variant(), 1),
                    FaultOhms.ohms(form.variant()).map(r -> Math.round(Math.log(r) / NEARLY)));
            gathered.merge(
                    key,
                    form,
                    (a, b) -> new Weighted(
                            a.suspicion(),
                            a.probability() > b.probability() ? a.variant() : b.variant(),
                            a.probability() + b.probability()));
        }
        return List.copyOf(gathered.values());
    }

    /** Unpowered readings of rails not yet read in this circuit, most telling first. */
    List<Worth> readings() {
        return readings;
    }

    private List<Worth> weigh() {
        List<Worth> worths = new ArrayList<>();
        Set<String> blamed = forms.stream()
                .flatMap(w -> w.variant().faults().stream())
                .filter(Bridge.class::isInstance)
                .flatMap(f -> Stream.of(((Bridge) f).netA(), ((Bridge) f).netB()))
                .collect(Collectors.toSet());
        for (Net net : timeline.board().nets()) {
            // What stands under power is not held down.
            boolean read = book.unpowered(net.name()).isPresent() || book.stands(net.name());
            // A line that nothing is likely to be wrong with tells nothing.
            boolean line = net.kind() == NetKind.SIGNAL && blamed.contains(net.name());
            if (net.kind() != NetKind.POWER && !line || read) {
                continue;
            }
            Worth worth = worth(net);
            if (worth.natsPerMinute > WORTH_NATS) {
                worths.add(worth);
            }
        }
        worths.sort(Comparator.comparingDouble(Worth::natsPerMinute).reversed());
        return worths;
    }

    private Worth worth(Net net) {
        Meter meter = new Meter(Meter.Mode.DIODE_VOLTS, net.name(), ground, true);
        Map<Class, Map<Object, Double>> joint = new EnumMap<>(Class.class);
        double total = 0;
        for (Weighted form : forms) {
            Class seen = outcome(
                    net, predictor.read(meter, timeline.now(), form.variant().faults()));
            Object fault = List.of(form.suspicion().code(), form.suspicion().target());
            joint.computeIfAbsent(seen, k -> new HashMap<>()).merge(fault, form.probability(), Double::sum);
            total += form.probability();
        }
        double information = 0;
        List<Outcome> outcomes = new ArrayList<>();
        Map<Object, Double> prior = new HashMap<>();
        joint.values().forEach(m -> m.forEach((k, v) -> prior.merge(k, v, Double::sum)));
        for (Map.Entry<Class, Map<Object, Double>> entry : joint.entrySet()) {
            double p = entry.getValue().values().stream().mapToDouble(v -> v).sum();
            for (Map.Entry<Object, Double> cell : entry.getValue().entrySet()) {
                double both = cell.getValue() / total;
                information += both * Math.log(both / (p / total * prior.get(cell.getKey()) / total));
            }
            outcomes.add(outcome(entry.getKey(), p / total, entry.getValue()));
        }
        outcomes.sort(Comparator.comparingDouble(Outcome::probability).reversed());
        Step step = new Step(
                Action.READ,
                Optional.of(net.name()),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                Reason.TELLS_MOST,
                outcomes);
        return new Worth(step, (1 - 2 * BLUR) * information / READ_MINUTES);
    }

    private static Outcome outcome(Class seen, double probability, Map<Object, Double> faults) {
        double sum = faults.values().stream().mapToDouble(v -> v).sum();
        return new Outcome(
                seen,
                probability,
                faults.entrySet().stream().max(Map.Entry.comparingByValue()).map(e -> {
                    List<?> key = (List<?>) e.getKey();
                    return new Hypothesis(
                            (Hypothesis.Code) key.get(0), (String) key.get(1), Math.min(1, e.getValue() / sum));
                }));
    }

    /** The same words as when it has been read. */
    private Class outcome(Net net, Band band) {
        double middle = Double.isInfinite(band.high()) ? band.high() : (band.low() + band.high()) / 2;
        if (middle > NOTHING_CONDUCTS_VOLTS) {
            return Class.OPEN;
        }
        return switch (timeline.interpreter()
                .unpowered(net, ReadMode.DIODE, middle)
                .says()) {
            case SHORTED -> Class.SHORTED;
            case LOW -> Class.LOW;
            default -> Class.GOOD;
        };
    }
}
