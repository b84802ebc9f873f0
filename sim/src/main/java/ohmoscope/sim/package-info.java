/**
 * A simulated bench: a board with a fault under a supply and a thermal camera. Richer than the model that the estimator
 * uses: heat in layers with uneven copper, parts as bodies of their own, reflections, stripes, drift, shake.
 *
 * <p>Way in: {@link ohmoscope.sim.BenchSimulator}. The same setup and seed give the same bundle.
 */
@NullMarked
package ohmoscope.sim;

import org.jspecify.annotations.NullMarked;
