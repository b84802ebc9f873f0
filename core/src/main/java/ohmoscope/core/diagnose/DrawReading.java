package ohmoscope.core.diagnose;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Range;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.evidence.Observation.DeviceState;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.reading.Thresholds;

/**
 * How much more than a good device one draw is, and where it may go.
 *
 * @param mostAmps what a good device takes there at most, amperes
 * @param leakOhms the resistance that takes the rest, ohms; empty where nothing is left over
 * @param carriers rails that get their power from there as the device is, and so may carry it; nearest first
 */
public record DrawReading(double mostAmps, OptionalDouble leakOhms, List<String> carriers) {
    /** Less than this over what is stated is the meter's own, amperes. */
    private static final double LEAST_LEAK_AMPS = 0.02;
    /** A rail carries a share of what the device runs on; conversion loses a tenth and more. */
    private static final double CONVERSION = 1.15;

    public DrawReading {
        carriers = List.copyOf(carriers);
    }

    /** Empty where the entry has no current, or nobody says what a good device takes. */
    static Optional<DrawReading> of(BoardIndex board, PowerTree tree, Power power) {
        if (power.amps().isEmpty() || power.amps().getAsDouble() < 0) {
            return Optional.empty();
        }
        Optional<Part> port = Draw.port(board, tree, power);
        OptionalDouble most = power.net().isPresent() ? held(board, tree, power) : atPort(port, power);
        if (most.isEmpty()) {
            return Optional.empty();
        }
        List<String> from = power.net()
                .map(List::of)
                .orElseGet(() -> port.map(board::powerNets).orElse(List.of()));
        double volts = power.volts().orElse(0);
        double rest = power.amps().getAsDouble() - most.getAsDouble();
        boolean leaks = rest > LEAST_LEAK_AMPS && volts > 0;
        return Optional.of(new DrawReading(
                most.getAsDouble(),
                leaks ? OptionalDouble.of(volts / rest) : OptionalDouble.empty(),
                leaks ? carriers(tree, from, power.state() == DeviceState.ON) : List.of()));
    }

    /** A device that is off takes its standby, and may charge a cell unless that is out. */
    private static OptionalDouble atPort(Optional<Part> port, Power power) {
        Optional<PortExpectation> expects = port.flatMap(Part::expects);
        if (power.state() == DeviceState.OFF) {
            double charging = power.withoutCell() ? 0 : high(expects.flatMap(PortExpectation::chargeAmps));
            return expects.flatMap(PortExpectation::standbyAmps)
                    .map(r -> OptionalDouble.of(Thresholds.RUN_SLACK * (r.high() + charging)))
                    .orElse(OptionalDouble.empty());
        }
        return expects.flatMap(e -> Draw.later(e.runAmps(), e.chargeAmps()))
                .map(r -> OptionalDouble.of(Thresholds.RUN_SLACK * r.high()))
                .orElse(OptionalDouble.empty());
    }

    private static double high(Optional<Range> range) {
        return range.map(Range::high).orElse(0.0);
    }

    /** No rail takes more watts than the whole device. */
    private static OptionalDouble held(BoardIndex board, PowerTree tree, Power power) {
        double volts = power.volts().orElse(0);
        double watts = tree.inputs().stream()
                .flatMap(p -> p.expects().stream())
                .filter(e -> e.volts().isPresent())
                .mapToDouble(e -> e.volts().get().high()
                        * (power.state() == DeviceState.OFF ? high(e.standbyAmps()) : high(e.runAmps())))
                .max()
                .orElse(0);
        return watts > 0 && volts > 0
                ? OptionalDouble.of(Thresholds.RUN_SLACK * CONVERSION * watts / volts)
                : OptionalDouble.empty();
    }

    /** What is fed without a converter, and through converters too when the device is on. */
    private static List<String> carriers(PowerTree tree, List<String> from, boolean on) {
        Set<String> reached = new LinkedHashSet<>(from);
        Deque<String> open = new ArrayDeque<>(from);
        while (!open.isEmpty()) {
            for (PowerTree.Feed feed : tree.fedBy(open.remove())) {
                boolean passes = feed.kind() != PowerTree.Kind.CONVERTS || on;
                if (passes && reached.add(feed.to())) {
                    open.add(feed.to());
                }
            }
        }
        return new ArrayList<>(reached);
    }
}
