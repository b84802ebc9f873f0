/**
 * Work that is done in the background and must not be lost.
 *
 * <p>Way in: {@link ohmoscope.web.queue.WorkQueues}.
 */
@NullMarked
package ohmoscope.web.queue;

import org.jspecify.annotations.NullMarked;
