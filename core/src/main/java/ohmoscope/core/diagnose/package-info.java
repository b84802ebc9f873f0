/**
 * What the evidence says so far: findings, the faults that remain with their probabilities, the next step, and stops.
 *
 * <p>Way in: {@link ohmoscope.core.diagnose.Advisor}. May use: board, circuit, evidence. Never: Spring, files.
 */
@NullMarked
package ohmoscope.core.diagnose;

import org.jspecify.annotations.NullMarked;
