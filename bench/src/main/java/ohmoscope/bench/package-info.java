/** Stand-ins for the instruments on the bench. */
@NullMarked
package ohmoscope.bench;

import org.jspecify.annotations.NullMarked;
