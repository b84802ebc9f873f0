package ohmoscope.trials.hunt;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Expectation;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Range;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.circuit.PowerTree.Feed;
import ohmoscope.core.diagnose.Step;
import ohmoscope.core.diagnose.Step.Action;
import ohmoscope.core.diagnose.Step.Probe;
import ohmoscope.core.diagnose.Step.Reason;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.trials.hunt.Hunts.End;

/** What a careful beginner does from a sheet of paper: look, every rail, inject and film what is low, then volts in order. */
final class Checklist {
    private static final double LOW_VOLTS = 0.15;
    private static final int MOST_REPAIRS = 4;

    private final BoardIndex board;
    private final PowerTree tree;
    private final Technician technician;
    private final List<String> steps;

    Checklist(BoardIndex board, Technician technician, List<String> steps) {
        this.board = board;
        this.tree = PowerTree.of(board);
        this.technician = technician;
        this.steps = steps;
    }

    End play() {
        for (Part port : tree.inputs()) {
            does(Action.LOOK, port.ref(), Optional.empty());
            boolean hurt = technician.entries().stream()
                    .anyMatch(o -> o instanceof Observation.Look l
                            && l.target().equals(port.ref())
                            && l.finding() != Observation.LookFinding.CLEAN);
            if (hurt) {
                does(Action.REPLACE, port.ref(), Optional.empty());
            }
        }
        for (int i = 0; i < MOST_REPAIRS; i++) {
            if (technician.well()) {
                technician.tries();
                return End.SOLVED;
            }
            if (!repair()) {
                return End.RAN_DRY;
            }
        }
        return technician.well() ? End.SOLVED : End.TOO_LONG;
    }

    private boolean repair() {
        Optional<String> low = rails().stream().filter(this::low).findFirst();
        if (low.isPresent()) {
            return warm(low.get());
        }
        Probe volts = new Probe(Optional.of(ReadMode.VOLTS), false, Optional.of(PowerSource.CHARGER), false);
        for (String net : rails()) {
            does(Action.READ, net, Optional.of(volts));
            double nominal = board.net(net)
                    .flatMap(n -> n.nominalVolts().isPresent()
                            ? Optional.of(n.nominalVolts().getAsDouble())
                            : Optional.empty())
                    .orElse(3.3);
            if (last().orElse(0.0) < 0.5 * Math.min(nominal, 4.5)) {
                return behind(net);
            }
        }
        return false;
    }

    private List<String> rails() {
        return board.nets().stream()
                .filter(n -> n.kind() == NetKind.POWER)
                .map(Net::name)
                .sorted(Comparator.comparingInt(n -> tree.pathTo(n).size()))
                .toList();
    }

    private boolean low(String net) {
        does(Action.READ, net, Optional.of(new Probe(Optional.of(ReadMode.DIODE), false, Optional.empty(), false)));
        double least = board.net(net)
                .flatMap(Net::expect)
                .flatMap(Expectation::diodeVolts)
                .map(Range::low)
                .map(v -> 0.6 * v)
                .orElse(LOW_VOLTS);
        return last().orElse(9.0) < least;
    }

    private Optional<Double> last() {
        Observation last = technician.entries().get(technician.entries().size() - 1);
        return last instanceof Read r && r.value().isPresent()
                ? Optional.of(r.value().getAsDouble())
                : Optional.empty();
    }

    private boolean warm(String net) {
        technician.does(new Step(
                Action.INJECT,
                Optional.of(net),
                OptionalDouble.of(
                        Math.min(1, board.net(net).orElseThrow().nominalVolts().orElse(1))),
                OptionalDouble.of(2),
                Reason.SHORTED_INJECT_LOW,
                List.of()));
        does(Action.IMAGE, net, Optional.empty());
        Observation last = technician.entries().get(technician.entries().size() - 1);
        Optional<String> ref = last instanceof Warm w ? w.ref() : Optional.empty();
        return ref.map(r -> does(Action.REPLACE, r, Optional.empty())).orElse(false);
    }

    /** The rail is not there: its fuse or coil, else its converter. */
    private boolean behind(String net) {
        List<Feed> feeds = new ArrayList<>(tree.feeds().getOrDefault(net, List.of()));
        if (feeds.isEmpty()) {
            return tree.inputs().stream()
                    .findFirst()
                    .map(p -> does(Action.REPLACE, p.ref(), Optional.empty()))
                    .orElse(false);
        }
        return does(Action.REPLACE, feeds.get(0).part().ref(), Optional.empty());
    }

    private boolean does(Action action, String target, Optional<Probe> probe) {
        steps.add(action + " " + target);
        return technician.does(new Step(
                action,
                Optional.of(target),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                Reason.LIKELY_FAULT,
                List.of(),
                probe));
    }
}
