package ohmoscope.core.diagnose;

import java.util.Map;

/**
 * What one entry does to the odds of parts.
 *
 * @param factors by reference: above 1 it speaks for the part, below 1 against it
 */
public record EntryWeight(int seq, Map<String, Double> factors) {
    public EntryWeight {
        factors = Map.copyOf(factors);
    }

    /** 1 when the part was not asked for. */
    public double factor(String ref) {
        return factors.getOrDefault(ref, 1.0);
    }
}
