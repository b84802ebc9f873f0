/**
 * From scores to probabilities: candidates with their priors, a second opinion, warnings, the verdict.
 *
 * <p>Way in: {@link ohmoscope.core.locate.posterior.Judgement}. May use: fit.
 */
@NullMarked
package ohmoscope.core.locate.posterior;

import org.jspecify.annotations.NullMarked;
