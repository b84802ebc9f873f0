/**
 * Ports by their pins: how the usual kinds are laid out, and what pins that are bent, missing or touch one another mean.
 *
 * <p>Way in: {@link ohmoscope.core.port.PortDamage}. May use: {@code board}. Works without a layout: a pin that the board
 * does not have is known by its function.
 */
@NullMarked
package ohmoscope.core.port;

import org.jspecify.annotations.NullMarked;
