/**
 * What one reading says, whoever asks: findings, survey, rails, isolation, proof and hand-back read a value here and
 * nowhere else.
 *
 * <p>Way in: {@link ohmoscope.core.reading.Interpreter}. May use: board, evidence. Never: Spring, files, other readings.
 */
@NullMarked
package ohmoscope.core.reading;

import org.jspecify.annotations.NullMarked;
