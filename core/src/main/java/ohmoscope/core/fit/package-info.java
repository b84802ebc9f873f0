/** Searching for the best point of a function that is costly and has no slopes. */
@NullMarked
package ohmoscope.core.fit;

import org.jspecify.annotations.NullMarked;
