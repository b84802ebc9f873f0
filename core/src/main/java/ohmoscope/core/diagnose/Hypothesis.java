package ohmoscope.core.diagnose;

/**
 * A fault that would explain the evidence.
 *
 * @param target a part or net; for {@link Code#NONE} empty
 * @param probability from 0 to 1; all hypotheses of one advice sum to 1 at most
 */
public record Hypothesis(Code code, String target, double probability) {
    /** The closed set of the contract. */
    public enum Code {
        SHORT,
        OPEN,
        LEAKY,
        DAMAGED_PORT,
        NO_ENABLE,
        DEAD_CONTROLLER,
        PAIRED_PART,
        NOT_FITTED,
        BATTERY,
        NONE
    }

    public Hypothesis {
        if (!(probability >= 0 && probability <= 1)) {
            throw new IllegalArgumentException("probability must be from 0 to 1, was " + probability);
        }
    }
}
