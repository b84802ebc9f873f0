package ohmoscope.core.diagnose;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.PartValue;
import ohmoscope.core.board.Pin;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.Fault.Bridge;
import ohmoscope.core.circuit.Fault.Open;
import ohmoscope.core.diagnose.Suspicion.Variant;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.reading.Says;
import ohmoscope.core.reading.Unit;

/**
 * The resistance of a fault is anything, and a meter is sharper than a table of usual values. A suspicion's forms stand
 * for a prior over ln R, spread evenly over each form's cell (half way to the next); where something was measured,
 * forms are added close about it, and every form gets the prior's mass over its new, narrower cell. The sum over forms is
 * then the integral over R by the midpoint rule, fine where the likelihood is. Costs {@value #NODES} solves more for each
 * measured value of a net.
 */
final class FaultOhms {
    /** Nodes about a measured value, and their distance in ln R: about a meter's own sigma. */
    private static final int NODES = 7;

    private static final double APART = 0.12;
    /** Nearer than this two nodes are one. */
    private static final double SAME = 0.05;
    /** A meter's diode test. */
    private static final double TEST_AMPS = 1e-3;
    /** Above it a junction has its share, and volts are no measure of ohms. */
    private static final double NO_JUNCTION_VOLTS = 0.3;

    private static final double LEAST_OHMS = 0.01;
    private static final double MOST_OHMS = 1e6;
    private static final int MOST_VALUES = 4;
    /** A value that near to another, in ln R, is the same one read again. */
    private static final double AGAIN = 0.25;

    private final RailBook book;
    /** Measured ohms of each net that reads low, and across each part. */
    private final Map<String, Set<Double>> ofNet = new HashMap<>();

    private final Map<String, Set<Double>> across = new HashMap<>();

    FaultOhms(Timeline timeline, RailBook book) {
        this.book = book;
        book.inForce().forEach(this::measured);
        book.outdated().forEach(this::measured);
        book.everySign().filter(s -> s.unit() == Unit.VOLTS).forEach(s -> divided(timeline.board(), s));
        timeline.all(Read.class)
                .filter(r -> r.mode() == ReadMode.OHMS && r.across().isPresent())
                .forEach(r -> r.value().ifPresent(v -> add(across, r.across().get(), v)));
    }

    private void measured(Sign sign) {
        boolean pulled = sign.says() == Says.SHORTED || sign.says() == Says.LOW || sign.says() == Says.BY_DESIGN;
        if (!pulled) {
            return;
        }
        if (sign.unit() == Unit.OHMS) {
            add(ofNet, sign.net(), sign.value());
        } else if (sign.unit() == Unit.DIODE_VOLTS && sign.value() < NO_JUNCTION_VOLTS) {
            add(ofNet, sign.net(), sign.value() / TEST_AMPS);
        }
    }

    /** A net that stands lower than it should behind a resistor: the divider's arithmetic says what holds it down. */
    private void divided(BoardIndex board, Sign sign) {
        if (sign.says() != Says.HALF && sign.says() != Says.ABSENT || sign.value() <= 0) {
            return;
        }
        for (Part part : board.partsOn(sign.net()).toList()) {
            double ohms = PartValue.ohms(part).orElse(0);
            if (part.kind() != PartKind.RESISTOR || ohms <= 0) {
                continue;
            }
            for (Pin pin : part.pins()) {
                double source =
                        pin.net().equals(sign.net()) || board.isGround(pin.net()) ? 0 : stands(board, pin.net());
                if (source > sign.value()) {
                    add(ofNet, sign.net(), ohms * sign.value() / (source - sign.value()));
                }
            }
        }
    }

    /** As measured, else as it should; 0 where nobody says. */
    private double stands(BoardIndex board, String net) {
        return book.powered(net)
                .filter(s -> s.says() == Says.PRESENT)
                .map(Sign::value)
                .orElseGet(() -> board.net(net).orElseThrow().nominalVolts().orElse(0));
    }

    private static void add(Map<String, Set<Double>> values, String key, double ohms) {
        if (ohms > LEAST_OHMS && ohms < MOST_OHMS) {
            Set<Double> set = values.computeIfAbsent(key, k -> new TreeSet<>());
            boolean near = set.stream().anyMatch(v -> Math.abs(Math.log(v / ohms)) < AGAIN);
            if (!near && set.size() < MOST_VALUES) {
                set.add(ohms);
            }
        }
    }

    /** The same suspicions, with forms where something was measured. */
    List<Suspicion> refined(List<Suspicion> suspicions) {
        return ofNet.isEmpty() && across.isEmpty()
                ? suspicions
                : suspicions.stream().map(this::refined).toList();
    }

    private Suspicion refined(Suspicion suspicion) {
        if (suspicion.variants().stream().noneMatch(this::measured)) {
            return suspicion;
        }
        // Forms that differ in ohms alone are one family; a port has several.
        Map<List<Fault>, List<Variant>> families = new HashMap<>();
        List<Variant> all = new ArrayList<>();
        for (Variant variant : suspicion.variants()) {
            if (ohms(variant).isPresent() && alike(variant) && measured(variant)) {
                families.computeIfAbsent(withOhms(variant, 1), k -> new ArrayList<>())
                        .add(variant);
            } else {
                all.add(variant);
            }
        }
        if (families.isEmpty()) {
            return suspicion;
        }
        families.values()
                .forEach(family -> all.addAll(family.size() < 2 ? family : finer(family, measuredNear(family.get(0)))));
        return new Suspicion(suspicion.code(), suspicion.target(), suspicion.prior(), all);
    }

    /** Whether all of a form's paths have the same ohms: those of two faults have their own. */
    private static boolean alike(Variant variant) {
        return variant.faults().stream()
                        .filter(Bridge.class::isInstance)
                        .mapToDouble(f -> ((Bridge) f).ohms())
                        .distinct()
                        .count()
                <= 1;
    }

    private boolean measured(Variant variant) {
        for (Fault fault : variant.faults()) {
            if (across.containsKey(fault.target())
                    || fault instanceof Bridge b && (ofNet.containsKey(b.netA()) || ofNet.containsKey(b.netB()))) {
                return true;
            }
        }
        return false;
    }

    private Set<Double> measuredNear(Variant variant) {
        Set<Double> values = new TreeSet<>();
        for (Fault fault : variant.faults()) {
            if (fault instanceof Bridge b) {
                values.addAll(ofNet.getOrDefault(b.netA(), Set.of()));
                values.addAll(ofNet.getOrDefault(b.netB(), Set.of()));
                values.addAll(across.getOrDefault(b.target(), Set.of()));
            } else if (fault instanceof Open open) {
                values.addAll(across.getOrDefault(open.target(), Set.of()));
            }
        }
        return values;
    }

    /** Empty for a form that has no resistance of its own, such as one that conducts nothing. */
    static Optional<Double> ohms(Variant variant) {
        return variant.faults().stream()
                .findFirst()
                .flatMap(f -> f instanceof Bridge b
                        ? Optional.of(b.ohms())
                        : f instanceof Open o && o.ohms() < Open.NOTHING_OHMS
                                ? Optional.of(o.ohms())
                                : Optional.empty());
    }

    static List<Fault> withOhms(Variant variant, double ohms) {
        return variant.faults().stream()
                .map(f -> f instanceof Bridge b ? b.of(ohms) : f instanceof Open o ? o.of(ohms) : f)
                .toList();
    }

    /** @param coarse at least two forms that differ in ohms alone */
    static List<Variant> finer(List<Variant> coarse, Set<Double> measured) {
        List<Variant> sorted = coarse.stream()
                .sorted((a, b) -> Double.compare(ohms(a).orElseThrow(), ohms(b).orElseThrow()))
                .toList();
        double[] old = sorted.stream()
                .mapToDouble(v -> Math.log(ohms(v).orElseThrow()))
                .toArray();
        double[] oldEdges = edges(old);
        TreeSet<Double> nodes = new TreeSet<>();
        for (double ohms : measured) {
            for (int k = 0; k < NODES; k++) {
                double at = Math.log(ohms) + (k - NODES / 2) * APART;
                if (at > oldEdges[0] && at < oldEdges[old.length] && clear(nodes, at)) {
                    nodes.add(at);
                }
            }
        }
        for (double at : old) {
            if (clear(nodes, at)) {
                nodes.add(at);
            }
        }
        double[] fine = nodes.stream().mapToDouble(v -> v).toArray();
        double[] fineEdges = edges(fine);
        fineEdges[0] = oldEdges[0];
        fineEdges[fine.length] = oldEdges[old.length];
        List<Variant> finer = new ArrayList<>();
        for (int i = 0; i < fine.length; i++) {
            double mass = 0;
            for (int j = 0; j < old.length; j++) {
                double overlap = Math.min(fineEdges[i + 1], oldEdges[j + 1]) - Math.max(fineEdges[i], oldEdges[j]);
                if (overlap > 0) {
                    mass += sorted.get(j).weight() * overlap / (oldEdges[j + 1] - oldEdges[j]);
                }
            }
            finer.add(new Variant(withOhms(sorted.get(0), Math.exp(fine[i])), mass));
        }
        return finer;
    }

    private static boolean clear(TreeSet<Double> nodes, double at) {
        Double below = nodes.floor(at);
        Double above = nodes.ceiling(at);
        return (below == null || at - below > SAME) && (above == null || above - at > SAME);
    }

    /** Half way between nodes; the outer cells reach as far out as in. */
    private static double[] edges(double[] at) {
        double[] edges = new double[at.length + 1];
        for (int i = 1; i < at.length; i++) {
            edges[i] = (at[i - 1] + at[i]) / 2;
        }
        double first = at.length < 2 ? 0.5 : at[1] - at[0];
        double last = at.length < 2 ? 0.5 : at[at.length - 1] - at[at.length - 2];
        edges[0] = at[0] - first / 2;
        edges[at.length] = at[at.length - 1] + last / 2;
        return edges;
    }
}
