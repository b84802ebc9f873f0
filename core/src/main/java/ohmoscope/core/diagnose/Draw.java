package ohmoscope.core.diagnose;

import java.util.Optional;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Range;
import ohmoscope.core.circuit.PowerTree;
import ohmoscope.core.evidence.Observation.DeviceState;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.TraceShape;
import ohmoscope.core.reading.Thresholds;

/** What a device draws from outside, as one word. */
enum Draw {
    NORMAL,
    NONE,
    /** A small steady current that goes nowhere. */
    STUCK,
    /** The port's first voltage, and no more asked for. */
    NO_NEGOTIATION,
    EXCESSIVE,
    PULSING,
    /** Something flows, but it says neither good nor bad. */
    UNCLEAR;

    /** @return empty when the entry has no current, or is not at a port */
    static Optional<Draw> of(BoardIndex board, PowerTree tree, Power power) {
        boolean reversed = power.volts().orElse(0) < 0 || power.amps().orElse(0) < -Thresholds.NO_DRAW_AMPS;
        if (power.net().isPresent() || reversed) {
            return Optional.empty();
        }
        Optional<TraceShape> shape = power.shape();
        if (shape.isPresent()) {
            switch (shape.get()) {
                case COLLAPSE, BURST_THEN_ZERO:
                    return Optional.of(EXCESSIVE);
                case PULSING:
                    return Optional.of(PULSING);
                case SPIKE_THEN_ZERO:
                    return Optional.of(NORMAL);
                case RISING:
                    return Optional.of(stopsOnTheWay(board, tree, power) ? STUCK : NORMAL);
                default:
                    break;
            }
        }
        if (power.amps().isEmpty()) {
            return Optional.empty();
        }
        Optional<Part> port = port(board, tree, power);
        return Optional.of(steady(board, tree, power, port));
    }

    /** The port that a draw was at: the one that the entry names, else the first. */
    static Optional<Part> port(BoardIndex board, PowerTree tree, Power power) {
        return power.port().flatMap(board::part).or(() -> tree.inputs().stream().findFirst());
    }

    /** Told to start, it climbed to a level at which it does not run, and stayed: no staircase of a start ends there. */
    private static boolean stopsOnTheWay(BoardIndex board, PowerTree tree, Power power) {
        return power.state() == DeviceState.ON
                && power.amps().isPresent()
                && port(board, tree, power)
                        .flatMap(Part::expects)
                        .flatMap(PortExpectation::runAmps)
                        .map(r -> power.amps().getAsDouble() < Thresholds.RUNS_SHARE * r.low())
                        .orElse(false);
    }

    private static Draw steady(BoardIndex board, PowerTree tree, Power power, Optional<Part> port) {
        double amps = power.amps().getAsDouble();
        Optional<PortExpectation> expects = port.flatMap(Part::expects);
        double most = expects.flatMap(e -> later(e.runAmps(), e.chargeAmps()))
                .map(r -> 1.2 * r.high())
                .orElse(Thresholds.EXCESSIVE_AMPS);
        double nominal = nominal(board, port, expects);
        double volts = power.volts().orElse(nominal);
        if (amps >= Math.max(most, 1) || amps > 1.5 && volts < Thresholds.SAGGED_SHARE * Math.min(5, nominal)) {
            return EXCESSIVE;
        }
        if (inPlaceOfCell(tree, power)) {
            // Off, and fed where its cell was: nothing should flow, and what does goes through what should not conduct.
            return leaks(power, expects) ? EXCESSIVE : NORMAL;
        }
        boolean waiting = volts >= Thresholds.NEGOTIATED_VOLTS && power.state() == DeviceState.OFF;
        if (amps <= (waiting ? Thresholds.NO_DRAW_WHILE_WAITING_AMPS : Thresholds.NO_DRAW_AMPS)) {
            return NONE;
        }
        double runs = expects.flatMap(PortExpectation::runAmps)
                .map(r -> Thresholds.RUN_SLACK * r.high())
                .orElse(Thresholds.RUNS_WITHOUT_CELL_WATTS / Math.max(volts, 1));
        if (power.withoutCell() && amps > runs) {
            return UNCLEAR;
        }
        boolean first = volts >= Thresholds.FIRST_VOLTS_LOW && volts <= Thresholds.FIRST_VOLTS_HIGH;
        if (first && nominal >= Thresholds.NEGOTIATED_VOLTS && power.from() == PowerSource.CHARGER) {
            return NO_NEGOTIATION;
        }
        Optional<Range> standby = expects.flatMap(PortExpectation::standbyAmps);
        if (power.state() == DeviceState.OFF
                && standby.isPresent()
                && standby.get().contains(amps)) {
            return NORMAL;
        }
        double stuck =
                volts >= Thresholds.NEGOTIATED_VOLTS ? Thresholds.STUCK_AT_HIGH_VOLTS_AMPS : Thresholds.STUCK_AMPS;
        double least = expects.flatMap(PortExpectation::runAmps)
                .filter(r -> power.state() == DeviceState.ON)
                .map(r -> Thresholds.RUNS_SHARE * r.low())
                .orElse(stuck);
        return amps < least ? STUCK : NORMAL;
    }

    private static boolean inPlaceOfCell(PowerTree tree, Power power) {
        return power.from() == PowerSource.BENCH
                && power.state() == DeviceState.OFF
                && power.port().map(tree::isBattery).orElse(false);
    }

    private static boolean leaks(Power power, Optional<PortExpectation> expects) {
        double standby =
                expects.flatMap(PortExpectation::standbyAmps).map(Range::high).orElse(Thresholds.OFF_AMPS / 3);
        return power.amps().orElse(0) > Math.max(Thresholds.OFF_AMPS, 3 * standby);
    }

    /** Whether a port that should have asked for more stands at a charger's first voltage. */
    static boolean firstVoltsOnly(BoardIndex board, PowerTree tree, Power power) {
        Optional<Part> port = port(board, tree, power);
        double volts = power.volts().orElse(0);
        return power.from() == PowerSource.CHARGER
                && power.net().isEmpty()
                && volts >= Thresholds.FIRST_VOLTS_LOW
                && volts <= Thresholds.FIRST_VOLTS_HIGH
                && nominal(board, port, port.flatMap(Part::expects)) >= Thresholds.NEGOTIATED_VOLTS;
    }

    /** The larger of what it runs on and charges with. */
    static Optional<Range> later(Optional<Range> run, Optional<Range> charge) {
        if (run.isPresent() && charge.isPresent()) {
            return run.get().high() > charge.get().high() ? run : charge;
        }
        return run.or(() -> charge);
    }

    /** What the port carries when all is well, volts. */
    static double nominal(BoardIndex board, Optional<Part> port, Optional<PortExpectation> expects) {
        return expects.flatMap(PortExpectation::volts)
                .map(Range::low)
                .orElseGet(() -> port.stream()
                        .flatMap(p -> board.powerNets(p).stream())
                        .flatMap(n -> board.net(n).stream())
                        .mapToDouble(n -> n.nominalVolts().orElse(5))
                        .max()
                        .orElse(5));
    }
}
