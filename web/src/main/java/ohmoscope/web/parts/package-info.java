/** The parts desk: what a part is replaced by, where one stands, and what the shop has. */
@NullMarked
package ohmoscope.web.parts;

import org.jspecify.annotations.NullMarked;
