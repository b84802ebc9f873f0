/** A job that begins: what is known of the device and of its board. */
@NullMarked
package ohmoscope.web.begin;

import org.jspecify.annotations.NullMarked;
