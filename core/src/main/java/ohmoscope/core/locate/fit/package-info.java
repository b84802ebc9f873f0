/**
 * How well sources explain all captures: nuisance subspace, non-negative watts, the heat model's shape.
 *
 * <p>Way in: {@link ohmoscope.core.locate.fit.SidedFit}. May use: model.
 */
@NullMarked
package ohmoscope.core.locate.fit;

import org.jspecify.annotations.NullMarked;
