package ohmoscope.core.rework;

import java.util.List;
import java.util.OptionalDouble;

/**
 * One way to take the part off, as it would go on this board.
 *
 * @param setC setting of air or iron; empty where nothing is heated
 * @param nozzleMm of the air
 * @param preheatC of the board before
 * @param meltsAtS seconds until the last joint is liquid; empty where it does not come to that in time
 * @param heatedS seconds of heat in all
 * @param jointC the last joint in the end
 * @param screened references to be kept from the air
 * @param taped references of small parts whose solder melts, to be held down while it does
 * @param peaks what stands beside it, nearest to its limit first
 * @param minutes with setting up and cleaning
 * @param risk chance that pads, part or neighbours take harm
 */
public record Way(
        Method method,
        OptionalDouble setC,
        OptionalDouble nozzleMm,
        OptionalDouble preheatC,
        OptionalDouble meltsAtS,
        double heatedS,
        double jointC,
        List<String> screened,
        List<String> taped,
        List<Peak> peaks,
        double minutes,
        double risk) {
    /** How the part comes off. */
    public enum Method {
        COLD_LEVER,
        IRON,
        AIR,
        AIR_PREHEATED,
        LOW_MELT
    }

    /**
     * How hot a neighbour gets.
     *
     * @param gapMm between the bodies, seen from above
     * @param celsius as the model has it
     * @param mostC hardly one in a hundred gets hotter on boards that are not as their file says
     */
    public record Peak(
            String ref,
            boolean otherSide,
            double gapMm,
            double celsius,
            double mostC,
            HeatLimit limit,
            boolean screened) {
        /** Whether it gets beyond its limit; where that would be harm, whether it may. */
        public boolean over() {
            return marginK() < 0;
        }

        public double marginK() {
            return limit.celsius() - (limit.hard() ? mostC : celsius);
        }
    }

    public Way {
        screened = List.copyOf(screened);
        taped = List.copyOf(taped);
        peaks = List.copyOf(peaks);
    }

    /** Whether it melts in time and nothing beside it is harmed. */
    public boolean safe() {
        boolean melts = method == Method.COLD_LEVER || meltsAtS.isPresent();
        return melts && peaks.stream().noneMatch(p -> p.over() && p.limit().hard());
    }

    /** What it may be expected to take, harm included, minutes. */
    public double cost() {
        return minutes + risk * HARM_MINUTES;
    }

    /** A torn pad or a cooked neighbour takes about an hour. */
    private static final double HARM_MINUTES = 60;
}
