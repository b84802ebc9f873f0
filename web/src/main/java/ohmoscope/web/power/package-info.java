/** What it draws from outside, over time. */
@NullMarked
package ohmoscope.web.power;

import org.jspecify.annotations.NullMarked;
