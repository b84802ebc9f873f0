/**
 * Heat in a board: the response of a slab to power released at a point, and waveforms of that power.
 *
 * <p>Way in: {@link ohmoscope.core.heat.SlabResponse}. May use: board, Hipparchus. Never: imaging, Spring, files.
 */
@NullMarked
package ohmoscope.core.heat;

import org.jspecify.annotations.NullMarked;
