/** What instruments on a bench do, whoever made them: set and shown values, states, limits, and what may go wrong. */
@NullMarked
package ohmoscope.core.instrument;

import org.jspecify.annotations.NullMarked;
