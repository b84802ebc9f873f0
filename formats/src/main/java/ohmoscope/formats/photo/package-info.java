/**
 * Photographs of boards: upright, squared up, and what can be seen on them without knowing the board.
 *
 * <p>Ways in: {@link ohmoscope.formats.photo.UprightPicture}, {@link ohmoscope.formats.photo.SquaredPicture}, {@link
 * ohmoscope.formats.photo.BodyFinder}, {@link ohmoscope.formats.photo.MapStepJson}. May use: core, BoofCV, the JDK. Never:
 * Spring.
 */
@NullMarked
package ohmoscope.formats.photo;

import org.jspecify.annotations.NullMarked;
