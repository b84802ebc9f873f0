/**
 * A board's map from its photographs: how a photograph lies over the board, and the steps by which somebody put parts and
 * nets on it.
 *
 * <p>Way in: {@link ohmoscope.core.photomap.PhotoMap}. May use: {@code board}, {@code imaging}, {@code layout}, the JDK.
 * Never: pictures themselves, files, Spring.
 */
@NullMarked
package ohmoscope.core.photomap;

import org.jspecify.annotations.NullMarked;
