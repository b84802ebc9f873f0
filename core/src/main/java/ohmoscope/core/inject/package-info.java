/**
 * The short as the supply sees it.
 *
 * <p>Way in: {@link ohmoscope.core.inject.FaultResistance}. May use: board, evidence. Never: Spring, files.
 */
@NullMarked
package ohmoscope.core.inject;

import org.jspecify.annotations.NullMarked;
