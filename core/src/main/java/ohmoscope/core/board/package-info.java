/**
 * The nouns of a board: outline, nets, parts, test points, and how they hang together as rails.
 *
 * <p>Way in: {@link ohmoscope.core.board.Board}. May use: the JDK and JTS. Never: other core packages, Spring, files.
 * Board axes are millimetres, x to the right and y up, as seen looking at the top side; parts on the bottom side use
 * the same axes.
 */
@NullMarked
package ohmoscope.core.board;

import org.jspecify.annotations.NullMarked;
