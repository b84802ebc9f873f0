/** Simulated hunts of every kind in numbers, for judging how often the right part is found. */
@NullMarked
package ohmoscope.trials.capture;

import org.jspecify.annotations.NullMarked;
