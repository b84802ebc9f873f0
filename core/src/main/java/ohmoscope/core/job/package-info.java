/**
 * A job: one device on one board, what was found on it, and the hunts that it took.
 *
 * <p>Way in: {@link ohmoscope.core.job.Job}. May use: {@code board}, {@code evidence}, {@code prove}, the JDK. Never: how a
 * job is stored or written to a file.
 */
@NullMarked
package ohmoscope.core.job;

import org.jspecify.annotations.NullMarked;
