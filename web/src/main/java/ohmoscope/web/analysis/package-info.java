/** Runs locate in the background and keeps its result. */
@NullMarked
package ohmoscope.web.analysis;

import org.jspecify.annotations.NullMarked;
