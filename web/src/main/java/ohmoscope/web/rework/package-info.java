/** How a part comes off: the ways, what each does to its neighbours, and what it really took. */
@NullMarked
package ohmoscope.web.rework;

import org.jspecify.annotations.NullMarked;
