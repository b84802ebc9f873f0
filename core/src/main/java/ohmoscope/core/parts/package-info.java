/**
 * What a part is replaced by: what it has to be, where one like it stands, what may stand in for it.
 *
 * <p>Way in: {@link ohmoscope.core.parts.WantedPart}. May use: board. Never: Spring, files.
 */
@NullMarked
package ohmoscope.core.parts;

import org.jspecify.annotations.NullMarked;
