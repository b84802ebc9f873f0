/**
 * Made-up photographs of made-up boards: what a telephone held over a bench would show.
 *
 * <p>Way in: {@link ohmoscope.bench.photo.BoardPhoto}. May use: core, {@code formats.photo}'s pixels and the JDK.
 */
@NullMarked
package ohmoscope.bench.photo;

import org.jspecify.annotations.NullMarked;
