package ohmoscope.core.evidence;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Board;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Read;

/**
 * How far readings of one point in one mode differ while the board stays as it is.
 *
 * @param times how often it was read, at least 2
 * @param low the lowest, in the unit of the mode
 * @param high the highest; infinite when one was over range
 */
public record Spread(int times, double low, double high) {
    /** Readings further apart than this are of the contact, not of the board. */
    private static final double CONTACT_FACTOR = 2;

    private static final double SMALL = 0.02;

    /** The spread up to and with this reading; empty for the first one. */
    public static Optional<Spread> of(Board board, Read read, List<Observation> observations) {
        ReadPoint point = ReadPoint.of(board, read);
        int times = 0;
        double low = Double.POSITIVE_INFINITY;
        double high = Double.NEGATIVE_INFINITY;
        for (Observation observation : observations) {
            if (observation.seq() > read.seq()) {
                break;
            }
            // A current may have burnt something open: what was read before it is another board's.
            if (observation instanceof Change || observation instanceof Inject) {
                times = 0;
                low = Double.POSITIVE_INFINITY;
                high = Double.NEGATIVE_INFINITY;
            } else if (observation instanceof Read other
                    && sameWay(read, other)
                    && ReadPoint.of(board, other).equals(point)) {
                double value = value(other.value());
                times++;
                low = Math.min(low, value);
                high = Math.max(high, value);
            }
        }
        return times > 1 ? Optional.of(new Spread(times, low, high)) : Optional.empty();
    }

    /** Whether the difference is that of a bad contact. */
    public boolean contact() {
        return high > CONTACT_FACTOR * low && high - low > SMALL;
    }

    private static double value(OptionalDouble value) {
        return value.orElse(Double.POSITIVE_INFINITY);
    }

    private static boolean sameWay(Read a, Read b) {
        return a.mode() == b.mode() && a.lead().equals(b.lead()) && a.power().equals(b.power());
    }
}
