/** Instruments at the other end of a line: dialects as data, supplies and meters that speak them. */
@NullMarked
package ohmoscope.instruments;

import org.jspecify.annotations.NullMarked;
