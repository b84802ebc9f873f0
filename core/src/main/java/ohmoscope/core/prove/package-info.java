/**
 * Whether a repair is proven: the same reading at the same point, before and after.
 *
 * <p>Way in: {@link ohmoscope.core.prove.Proof}. May use: board, evidence. Never: Spring, files.
 */
@NullMarked
package ohmoscope.core.prove;

import org.jspecify.annotations.NullMarked;
