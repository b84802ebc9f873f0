/** A bench without a bench: stand-ins for its instruments, the board behind them, and the demo world. */
@NullMarked
package ohmoscope.bench;

import org.jspecify.annotations.NullMarked;
