/**
 * The commands for scripts: locate, evaluate, simulate, check.
 *
 * <p>Way in: {@link ohmoscope.cli.Main}. May use: core, formats, bench, picocli. Never: Spring.
 */
@NullMarked
package ohmoscope.cli;

import org.jspecify.annotations.NullMarked;
