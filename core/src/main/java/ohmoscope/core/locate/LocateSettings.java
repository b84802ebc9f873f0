package ohmoscope.core.locate;

import ohmoscope.core.board.Check;

/**
 * The judgement's constants. They are relative errors and prior odds, found on simulated movies kept apart from the
 * ones that the published figures come from (docs/evaluation.md).
 *
 * @param boardError how far the heat model is off on bare board some millimetres from the source, share of the local signal
 * @param bodyError the same on a part's body, whose emissivity nobody knows
 * @param nonePrior prior probability that nothing of this rail warmed
 * @param elsewherePrior prior probability of a source that is no candidate
 * @param partFrom probability from which a suspect may be acted on
 */
public record LocateSettings(
        double boardError, double bodyError, double nonePrior, double elsewherePrior, double partFrom) {
    public static final LocateSettings DEFAULT = new LocateSettings(0.10, 0.40, 0.08, 0.03, 0.7);

    public LocateSettings {
        Check.positive("boardError", boardError);
        Check.positive("bodyError", bodyError);
        Check.within("nonePrior", nonePrior, 1e-6, 0.9);
        Check.within("elsewherePrior", elsewherePrior, 0, 0.9);
        Check.within("partFrom", partFrom, 0.5, 1);
    }
}
