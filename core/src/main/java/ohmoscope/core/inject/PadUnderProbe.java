package ohmoscope.core.inject;

import java.util.function.Predicate;
import java.util.stream.Stream;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.PointMm;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.ProbePlace;

/** Which net's pad the hot probe stands on, as its marked place tells it against the net that was written down. */
public final class PadUnderProbe {
    /** One sigma of where a place is marked, mm. */
    private static final double MARKED_MM = 1;

    /** Farther off than this no pad can have been meant, mm. */
    private static final double FAR_MM = 3;

    /** A place is often marked where the probe was meant to be. */
    private static final double LEAST_TELLING = 0.7;

    private static final double MOST_TELLING = 10;

    /** From here on the marked place is worth a word. */
    private static final double NEARER = 1.2;

    /** That ground itself is written down, and means something else. */
    private static final double WRITTEN_DOWN = 300;

    private PadUnderProbe() {}

    /** Whether the marked place is clearly nearer to a ground pad than to one of the net, or ground is written down. */
    public static boolean nearerToGround(Board board, Injection injection) {
        return groundOverNet(board, injection) > NEARER;
    }

    /** How much likelier the probe stands on ground than on the injection's net, by what is written down alone. */
    public static double groundOverNet(Board board, Injection injection) {
        if (board.isGround(injection.net())) {
            return WRITTEN_DOWN;
        }
        return injection
                .at()
                .map(at -> {
                    double toNet = nearestMm(board, at, injection.net()::equals);
                    double toGround = nearestMm(board, at, board::isGround);
                    double log = (toNet * toNet - toGround * toGround) / (2 * MARKED_MM * MARKED_MM);
                    return Math.max(LEAST_TELLING, Math.min(MOST_TELLING, Math.exp(log)));
                })
                .orElse(1.0);
    }

    private static double nearestMm(Board board, ProbePlace at, Predicate<String> net) {
        Stream<PointMm> pins = board.parts().stream()
                .filter(part -> part.side() == at.side())
                .flatMap(part -> part.pins().stream())
                .filter(pin -> net.test(pin.net()))
                .map(pin -> new PointMm(pin.xMm(), pin.yMm()));
        Stream<PointMm> points = board.testPoints().stream()
                .filter(point -> point.side() == at.side() && net.test(point.net()))
                .map(point -> new PointMm(point.xMm(), point.yMm()));
        double nearest = Stream.concat(pins, points)
                .mapToDouble(pad -> pad.distanceMm(at.xMm(), at.yMm()))
                .min()
                .orElse(FAR_MM);
        return Math.min(FAR_MM, nearest);
    }
}
