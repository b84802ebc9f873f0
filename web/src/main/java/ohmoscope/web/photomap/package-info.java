/** A board's map from its photographs: laying them, putting parts on them, and the photograph under every picture. */
@NullMarked
package ohmoscope.web.photomap;

import org.jspecify.annotations.NullMarked;
