package ohmoscope.core.live;

import java.util.Optional;
import ohmoscope.core.board.Check;

/**
 * Whether what a camera sees warming ends the current.
 *
 * @param what stands there
 * @param riseK above its surroundings
 * @param onSeconds how long current has flowed in this step
 * @param sigmaMm how well the place is known, one standard deviation
 * @param laid whether the picture is known to lie right on the board; where it is not, nothing is said to be no part of the rail
 * @param sure whether the frames so far name one part
 */
public record WarmStop(
        WarmPlace.What what, double riseK, double onSeconds, double sigmaMm, boolean laid, boolean sure) {
    /** Solder of a small part softens some 160 K above the room; a board scorches sooner, and the camera sees less than there is. */
    private static final double HOT_K = 30;

    /** A clip's contact that is so much warmer has tenths of an ohm, and takes the volts that the rail should have. */
    private static final double HOT_LEAD_K = 12;
    /** The picture's averages need as long to be trusted. */
    private static final double LEAST_S = 2;

    private static final double LEAST_OTHER_S = 1;

    public WarmStop {
        Check.within("rise_k", riseK, 0, 1e4);
        Check.within("sigma_mm", sigmaMm, 0, 1e4);
    }

    /** @param wantedMm how well the place has to be known */
    public Optional<Ending> ending(double wantedMm) {
        if (riseK > HOT_K) {
            return Optional.of(Ending.HOT_ENOUGH);
        }
        return switch (what) {
            case LEAD -> riseK > HOT_LEAD_K ? Optional.of(Ending.LEAD_HOT) : Optional.empty();
            case OTHER -> laid && onSeconds > LEAST_OTHER_S ? Optional.of(Ending.OTHER_WARMS) : Optional.empty();
            case SUSPECT ->
                sure && onSeconds > LEAST_S && sigmaMm <= wantedMm
                        ? Optional.of(Ending.SHARP_ENOUGH)
                        : Optional.empty();
        };
    }
}
