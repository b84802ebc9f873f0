/**
 * Taking a named part off: how each way of heating would go on this board, what that does to what stands beside it, and what to
 * look at afterwards.
 *
 * <p>Way in: {@link ohmoscope.core.rework.Rework}. May use: board, heat. Never: Spring, files.
 */
@NullMarked
package ohmoscope.core.rework;

import org.jspecify.annotations.NullMarked;
