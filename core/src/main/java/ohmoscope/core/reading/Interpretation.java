package ohmoscope.core.reading;

import java.util.Optional;
import ohmoscope.core.board.Range;

/**
 * What one unpowered reading to ground, or one voltage, says.
 *
 * @param value in the unit; infinite for over range
 * @param shorted chance that the true value is below what a dead short reads, 0–1; 0 for a voltage
 * @param pulledDown chance that it is below what a good board reads, 0–1; at least {@code shorted}
 * @param expected what a good board reads there, where that is stated
 */
public record Interpretation(
        Says says,
        double value,
        Unit unit,
        Reason reason,
        double shorted,
        double pulledDown,
        Optional<Range> expected) {
    private static final double CERTAIN = 0.9;

    public Interpretation {
        if (!(shorted >= 0 && shorted <= 1 && pulledDown >= 0 && pulledDown <= 1)) {
            throw new IllegalArgumentException("chances must be 0 to 1, were " + shorted + ", " + pulledDown);
        }
    }

    /** Whether the reading stands so near a border that the next one may say otherwise. */
    public boolean onTheBorder() {
        return between(pulledDown) || says == Says.LOW && between(shorted);
    }

    private static boolean between(double chance) {
        return chance > 1 - CERTAIN && chance < CERTAIN;
    }
}
