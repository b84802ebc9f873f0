/**
 * From a movie to a suspect: where the heat starts and which part that is, with calibrated probabilities.
 *
 * <p>Way in: {@link ohmoscope.core.locate.Locator}. May use: board, evidence, inject, heat, imaging, EJML, Hipparchus.
 * Never: files, Spring.
 */
@NullMarked
package ohmoscope.core.locate;

import org.jspecify.annotations.NullMarked;
