/**
 * The search itself: places near parts, places anywhere, the two rounds, and what the eye alone would say.
 *
 * <p>Way in: {@link ohmoscope.core.locate.search.Locator}, which is all that anybody outside needs. May use: posterior.
 */
@NullMarked
package ohmoscope.core.locate.search;

import org.jspecify.annotations.NullMarked;
