/** The points worth measuring, one after another. */
@NullMarked
package ohmoscope.web.survey;

import org.jspecify.annotations.NullMarked;
