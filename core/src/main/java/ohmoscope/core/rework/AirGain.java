package ohmoscope.core.rework;

import java.util.List;
import ohmoscope.core.board.Check;

/** What a bench's air passes on against the literature, learned from how long parts took to come off. */
public final class AirGain {
    /** Twice the gain melts a joint in about 0.3 of the time: measured on {@link HeatedBoard}. */
    private static final double GAIN_PER_TIME = 0.6;
    /** The literature counts as much as so many parts. */
    private static final double BELIEF = 1;

    private static final double LEAST = 0.4;
    private static final double MOST = 2.5;

    private AirGain() {}

    /**
     * How one part came off.
     *
     * @param plannedS when its last joint was to melt
     * @param tookS when it did
     * @param gain that the plan was made with
     */
    public record Told(double plannedS, double tookS, double gain) {
        public Told {
            Check.positive("planned_s", plannedS);
            Check.positive("took_s", tookS);
            Check.positive("gain", gain);
        }

        private double logGain() {
            return Math.log(gain) + GAIN_PER_TIME * Math.log(plannedS / tookS);
        }
    }

    /** @return 1 until something was told */
    public static double of(List<Told> told) {
        double sum = told.stream().mapToDouble(Told::logGain).sum();
        return Math.max(LEAST, Math.min(MOST, Math.exp(sum / (told.size() + BELIEF))));
    }
}
