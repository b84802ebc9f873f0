/**
 * From a movie to a suspect: where the heat starts and which part that is, with calibrated probabilities. Here are the values
 * that go in and come out; the rooms below, each using only those before it: capture, model, fit, posterior, search.
 *
 * <p>Way in: {@link ohmoscope.core.locate.search.Locator}. May use: board, evidence, inject, heat, imaging, EJML, Hipparchus.
 * Never: files, Spring.
 */
@NullMarked
package ohmoscope.core.locate;

import org.jspecify.annotations.NullMarked;
