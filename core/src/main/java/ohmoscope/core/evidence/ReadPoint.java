package ohmoscope.core.evidence;

import java.util.Optional;
import java.util.function.Function;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.TestPoint;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.ReadMode;

/**
 * Between which two points of a board a reading was taken, and in which mode. However it was written, {@code C22}, its
 * pad or {@code VMAIN at C22}, the point is the same; the pads of a part that is off are points of their nets still.
 *
 * @param net the net under the probe; empty for a reading across a part, or where nobody can tell
 * @param ref the part or test point under the probe; empty when only the net was named
 * @param across the part that was read across
 * @param to the other net; empty for ground
 */
public record ReadPoint(
        ReadMode mode, Optional<String> net, Optional<String> ref, Optional<String> across, Optional<String> to) {
    public static ReadPoint of(Board board, Read read) {
        return new ReadPoint(
                read.mode(),
                read.across().isPresent() ? Optional.empty() : netOf(board, read),
                read.ref(),
                read.across(),
                read.to().filter(n -> !board.isGround(n)));
    }

    /** The net a reading was taken on: as named, else by its pin, else the part's or test point's own. */
    public static Optional<String> netOf(Board board, Read read) {
        Function<String, NetKind> kind = name -> board.net(name).map(Net::kind).orElse(NetKind.SIGNAL);
        return read.net()
                .or(() -> read.ref()
                        .flatMap(ref -> board.part(ref)
                                .flatMap(p -> p.probed(read.pin(), kind))
                                .or(() -> board.testPoint(ref).map(TestPoint::net))));
    }

    /**
     * Whether this reading says again what the other said: the same point, or, where one of them names no part, the same
     * net.
     */
    public boolean answers(ReadPoint other) {
        boolean place = ref.isEmpty() || other.ref.isEmpty() || ref.equals(other.ref);
        return mode == other.mode
                && net.equals(other.net)
                && across.equals(other.across)
                && to.equals(other.to)
                && place;
    }
}
