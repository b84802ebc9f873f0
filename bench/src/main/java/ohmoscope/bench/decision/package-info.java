/**
 * Decision points of made-up jobs with what a right answer must contain, for measuring how good the advice is.
 *
 * <p>Way in: {@link ohmoscope.bench.decision.DecisionPoints}. May use: core, formats.
 */
@NullMarked
package ohmoscope.bench.decision;

import org.jspecify.annotations.NullMarked;
