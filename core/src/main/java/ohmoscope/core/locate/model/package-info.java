/**
 * What heat at a place would look like in a capture: sources, responses in time, columns over pixels, their model error.
 *
 * <p>Way in: {@link ohmoscope.core.locate.model.CapturePreparer}. May use: capture, heat.
 */
@NullMarked
package ohmoscope.core.locate.model;

import org.jspecify.annotations.NullMarked;
