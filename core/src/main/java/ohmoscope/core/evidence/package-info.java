/**
 * What was seen, measured and done on a job, as the bundle contract lists it, and the injection that was made.
 *
 * <p>Way in: {@link ohmoscope.core.evidence.Observation}. May use: board. Never: Spring, files.
 */
@NullMarked
package ohmoscope.core.evidence;

import org.jspecify.annotations.NullMarked;
