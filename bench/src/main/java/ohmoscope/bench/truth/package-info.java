/**
 * A board with a hidden fault as a meter, a supply and a charger find it, by other rules than those that judge it.
 *
 * <p>Way in: {@link ohmoscope.bench.truth.PoweredBoard}; hunts play on {@link ohmoscope.bench.truth.TrueBoard}.
 */
@NullMarked
package ohmoscope.bench.truth;

import org.jspecify.annotations.NullMarked;
