/** Wiring: security, headers, settings. */
@NullMarked
package ohmoscope.web.config;

import org.jspecify.annotations.NullMarked;
