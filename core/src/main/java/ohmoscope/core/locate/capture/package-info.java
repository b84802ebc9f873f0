/**
 * What a movie is made into before anything is fitted: pixels with their weights, times, still pictures, what stands in the way.
 *
 * <p>May use: {@code core.locate}'s values, imaging, numeric.
 */
@NullMarked
package ohmoscope.core.locate.capture;

import org.jspecify.annotations.NullMarked;
