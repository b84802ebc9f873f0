/** The capture: frames, time courses, registration. */
@NullMarked
package ohmoscope.web.capture;

import org.jspecify.annotations.NullMarked;
