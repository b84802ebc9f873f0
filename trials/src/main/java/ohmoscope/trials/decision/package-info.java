/**
 * Decision points of made-up jobs with what a right answer must contain, for measuring how good the advice is.
 *
 * <p>Way in: {@link ohmoscope.trials.decision.DecisionPoints}. May use: core, formats.
 */
@NullMarked
package ohmoscope.trials.decision;

import org.jspecify.annotations.NullMarked;
