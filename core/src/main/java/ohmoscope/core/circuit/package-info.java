/**
 * The board as a DC circuit: what feeds what, and what any meter or supply would read with a given fault.
 *
 * <p>Way in: {@link ohmoscope.core.circuit.Twin} and {@link ohmoscope.core.circuit.PowerTree}. May use: board. Never:
 * evidence, Spring, files.
 */
@NullMarked
package ohmoscope.core.circuit;

import org.jspecify.annotations.NullMarked;
