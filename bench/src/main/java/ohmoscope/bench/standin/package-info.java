/** Stand-ins for a bench's instruments: separate servers on loopback with one physical board behind them. */
@NullMarked
package ohmoscope.bench.standin;

import org.jspecify.annotations.NullMarked;
