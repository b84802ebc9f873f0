/** The library of boards: what there is, what is known of each, and putting it right. */
@NullMarked
package ohmoscope.web.boards;

import org.jspecify.annotations.NullMarked;
