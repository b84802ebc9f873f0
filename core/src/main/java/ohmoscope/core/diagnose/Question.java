package ohmoscope.core.diagnose;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import ohmoscope.core.circuit.Fault;

/** Entries that one answer of the twin explains. */
interface Question {
    /** The nets at which a bridge can change the answer. */
    Set<String> nets();

    /** The same for an open part; empty where any can. */
    default Optional<Set<String>> opened() {
        return Optional.of(nets());
    }

    /** Whether a chip that does nothing can change the answer. */
    default boolean underPower() {
        return false;
    }

    /** Log-likelihood of the entries with these faults, natural logarithm. */
    double of(List<Fault> faults);

    /** No faults whatever can make it more than this. */
    double most();
}
