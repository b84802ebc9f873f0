/** A port by its pins. */
@NullMarked
package ohmoscope.web.port;

import org.jspecify.annotations.NullMarked;
