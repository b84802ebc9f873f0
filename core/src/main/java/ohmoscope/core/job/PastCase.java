package ohmoscope.core.job;

import java.util.Optional;
import java.util.OptionalDouble;

/**
 * A proven job in a few numbers, or a job that is open, for being compared.
 *
 * @param number the job's
 * @param model what boards of a kind share
 * @param rail empty where nobody knows it
 * @param fault in words, as the hand-back says it; empty for an open job
 * @param ref the part that was it; empty for an open job
 * @param ohms of the short
 * @param drawAmps what it drew from outside before the repair
 */
public record PastCase(
        String number,
        long model,
        Optional<String> rail,
        OptionalDouble railVolts,
        String complaint,
        String fault,
        String ref,
        OptionalDouble ohms,
        OptionalDouble drawAmps) {}
