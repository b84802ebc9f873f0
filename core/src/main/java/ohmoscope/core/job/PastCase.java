package ohmoscope.core.job;

import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.diagnose.Hypothesis;

/**
 * A proven job in a few numbers, or a job that is open, for being compared.
 *
 * @param number the job's
 * @param model what boards of a kind share
 * @param rail empty where nobody knows it
 * @param fault in words, as the hand-back says it; empty for an open job
 * @param ref the part that was it; empty for an open job
 * @param code what kind of fault it was; empty for an open job, or where nobody could say
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
        Optional<Hypothesis.Code> code,
        OptionalDouble ohms,
        OptionalDouble drawAmps) {
    /** A job that is open still. */
    public static PastCase open(
            String number,
            long model,
            Optional<String> rail,
            OptionalDouble railVolts,
            String complaint,
            OptionalDouble ohms,
            OptionalDouble drawAmps) {
        return new PastCase(number, model, rail, railVolts, complaint, "", "", Optional.empty(), ohms, drawAmps);
    }

    /** The same, proven to have been this. */
    public PastCase proven(String wasWrong, String part, Optional<Hypothesis.Code> kind) {
        return new PastCase(number, model, rail, railVolts, complaint, wasWrong, part, kind, ohms, drawAmps);
    }
}
