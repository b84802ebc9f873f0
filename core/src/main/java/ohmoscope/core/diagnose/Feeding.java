package ohmoscope.core.diagnose;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Role;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.circuit.PoweredTwin.Input;
import ohmoscope.core.diagnose.Timeline.Moment;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;

/** What feeds the board at each powered entry, and which levels were measured in the same circuit. */
final class Feeding {
    private static final double CHARGER_LIMIT_AMPS = 3.3;
    private static final double BENCH_LIMIT_AMPS = 5;

    private final BoardIndex board;
    private final PowerTree tree;
    private final Map<Integer, Map<String, Double>> gates = new HashMap<>();
    private final Map<Integer, Map<String, Double>> levels = new HashMap<>();
    private final Map<Integer, Fed> fed = new HashMap<>();

    /**
     * @param inputs empty when nothing is known to feed the board
     * @param port the connector that power comes through; empty when none is known
     * @param firstVolts whether a charger that should have been asked for more stayed at its first voltage
     */
    record Fed(List<Input> inputs, String port, boolean firstVolts) {
        static final Fed NOTHING = new Fed(List.of(), "", false);
    }

    Feeding(Timeline timeline) {
        this.board = timeline.board();
        this.tree = timeline.tree();
        timeline.moments().forEach(moment -> levels(timeline, moment));
        Fed last = Fed.NOTHING;
        for (Moment moment : timeline.moments()) {
            if (moment.observation() instanceof Power power) {
                last = new Fed(
                        feeding(power),
                        power.port().orElseGet(() -> port(power.from())),
                        Draw.firstVoltsOnly(board, tree, power));
                fed.put(power.seq(), last);
            } else if (moment.observation() instanceof Read read && read.mode() == ReadMode.VOLTS) {
                fed.put(read.seq(), last.inputs.isEmpty() ? usually(read.power().orElse(PowerSource.CHARGER)) : last);
            }
        }
    }

    private void levels(Timeline timeline, Moment moment) {
        if (moment.observation() instanceof Read read
                && read.mode() == ReadMode.VOLTS
                && read.value().isPresent()
                && !timeline.underInjection(read)) {
            timeline.netOf(read).ifPresent(n -> {
                double volts = read.value().getAsDouble();
                levels.computeIfAbsent(moment.epoch(), k -> new HashMap<>()).put(n, volts);
                if (gateOfSmallFet(n)) {
                    gates.computeIfAbsent(moment.epoch(), k -> new HashMap<>()).put(n, volts);
                }
            });
        }
    }

    private Fed usually(PowerSource source) {
        return new Fed(usual(source), port(source), false);
    }

    private String port(PowerSource source) {
        return source == PowerSource.BATTERY ? tree.battery().map(Part::ref).orElse("") : firstPort();
    }

    private String firstPort() {
        return tree.inputs().stream().map(Part::ref).findFirst().orElse("");
    }

    Fed of(int seq) {
        return fed.getOrDefault(seq, Fed.NOTHING);
    }

    /** Levels at gates of small driving transistors. */
    Map<String, Double> gates(int epoch) {
        return gates.getOrDefault(epoch, Map.of());
    }

    /** Every level measured under power. */
    Map<String, Double> levels(int epoch) {
        return levels.getOrDefault(epoch, Map.of());
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
        Optional<Part> port = Draw.port(board, tree, power);
        double nominal = Draw.nominal(board, port, port.flatMap(Part::expects));
        boolean pulledDown =
                Draw.of(board, tree, power).map(d -> d == Draw.EXCESSIVE).orElse(false);
        double volts = pulledDown
                ? Math.max(nominal, power.volts().orElse(nominal))
                : power.volts().orElse(nominal);
        return at(port, volts, limit);
    }

    private List<Input> usual(PowerSource source) {
        if (source == PowerSource.BATTERY) {
            return battery();
        }
        Optional<Part> port = tree.inputs().stream().findFirst();
        return at(port, Draw.nominal(board, port, port.flatMap(Part::expects)), BENCH_LIMIT_AMPS);
    }

    private List<Input> at(Optional<Part> port, double volts, double limitAmps) {
        return port.stream()
                .flatMap(p -> board.powerNets(p).stream())
                .map(n -> new Input(n, volts, limitAmps))
                .toList();
    }

    /** What the cell gives. */
    List<Input> battery() {
        return tree.battery().stream()
                .flatMap(p -> board.powerNets(p).stream())
                .map(n -> new Input(n, board.net(n).orElseThrow().nominalVolts().orElse(4), BENCH_LIMIT_AMPS))
                .toList();
    }
}
