/** How power gets from the ports to the rails, and where it stops. */
@NullMarked
package ohmoscope.web.rails;

import org.jspecify.annotations.NullMarked;
