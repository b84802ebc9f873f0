package ohmoscope.core.diagnose;

import java.util.List;
import ohmoscope.core.circuit.Fault;

/**
 * A possible fault before the evidence: what it is, how common, and the electrical forms it may take.
 *
 * @param prior relative frequency, above 0
 * @param variants forms with weights that sum to 1; a form without circuit faults is one that no meter sees
 */
record Suspicion(Hypothesis.Code code, String target, double prior, List<Variant> variants) {
    /** One form. */
    record Variant(List<Fault> faults, double weight) {
        Variant {
            faults = List.copyOf(faults);
        }
    }

    Suspicion {
        variants = List.copyOf(variants);
    }

    static Suspicion unseen(Hypothesis.Code code, String target, double prior) {
        return new Suspicion(code, target, prior, List.of(new Variant(List.of(), 1)));
    }

    /** Whether it is the fault of a part that was put in. */
    boolean asFitted() {
        for (Variant variant : variants) {
            for (Fault fault : variant.faults) {
                if (fault.asFitted()) {
                    return true;
                }
            }
        }
        return false;
    }

    /** The same, met more or less often. */
    Suspicion weighed(double otherPrior) {
        return new Suspicion(code, target, otherPrior, variants);
    }
}
