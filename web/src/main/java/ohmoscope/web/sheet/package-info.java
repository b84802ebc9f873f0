/** The job sheet: evidence, board, suspects, next step. */
@NullMarked
package ohmoscope.web.sheet;

import org.jspecify.annotations.NullMarked;
