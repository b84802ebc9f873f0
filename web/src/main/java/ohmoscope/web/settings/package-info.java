/** A technician's schools. */
@NullMarked
package ohmoscope.web.settings;

import org.jspecify.annotations.NullMarked;
