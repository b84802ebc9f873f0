package ohmoscope.core.evidence;

import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.Range;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;

/**
 * What an unpowered reading to ground means by itself.
 *
 * @param expected what a good board reads there, when known
 */
public record ReadingVerdict(Kind kind, Optional<Range> expected) {
    /** In order of concern. */
    public enum Kind {
        DEAD_SHORT,
        PARTIAL_SHORT,
        BELOW_RANGE,
        IN_RANGE,
        ABOVE_RANGE,
        OVER_RANGE,
        NO_EXPECTATION
    }

    private static final double DEAD_DIODE_VOLTS = 0.02;
    private static final double PARTIAL_DIODE_VOLTS = 0.1;
    private static final double DEAD_OHMS = 2;

    public static ReadingVerdict of(Board board, Read read) {
        Optional<Net> net = ReadPoint.netOf(board, read).flatMap(board::net);
        boolean diode = read.mode() == ReadMode.DIODE;
        boolean ohms = read.mode() == ReadMode.OHMS || read.mode() == ReadMode.CONTINUITY;
        Optional<Range> expected =
                net.flatMap(Net::expect).flatMap(e -> diode ? e.diodeVolts() : ohms ? e.ohms() : Optional.empty());
        return new ReadingVerdict(kind(read, net, expected), expected);
    }

    private static Kind kind(Read read, Optional<Net> net, Optional<Range> expected) {
        boolean unpowered = read.power().isEmpty() && read.across().isEmpty();
        boolean diode = read.mode() == ReadMode.DIODE;
        boolean ohms = read.mode() == ReadMode.OHMS;
        if (!unpowered || !diode && !ohms) {
            return Kind.NO_EXPECTATION;
        }
        if (read.value().isEmpty()) {
            return Kind.OVER_RANGE;
        }
        double value = read.value().getAsDouble();
        if (expected.isPresent() && expected.get().contains(value)) {
            return Kind.IN_RANGE;
        }
        boolean power = net.map(n -> n.kind() == NetKind.POWER).orElse(false);
        if (power && value < (diode ? DEAD_DIODE_VOLTS : DEAD_OHMS)) {
            return Kind.DEAD_SHORT;
        }
        if (power && diode && value < PARTIAL_DIODE_VOLTS) {
            return Kind.PARTIAL_SHORT;
        }
        if (expected.isEmpty()) {
            return Kind.NO_EXPECTATION;
        }
        return value < expected.get().low() ? Kind.BELOW_RANGE : Kind.ABOVE_RANGE;
    }
}
