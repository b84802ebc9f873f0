/** How a device came in. */
@NullMarked
package ohmoscope.web.receive;

import org.jspecify.annotations.NullMarked;
