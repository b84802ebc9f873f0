/** What every page is made with: the picture of the board, the trade's words, numbers with their units, a round over places. */
@NullMarked
package ohmoscope.web.kit;

import org.jspecify.annotations.NullMarked;
