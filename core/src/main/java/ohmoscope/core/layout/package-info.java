/**
 * What is known of a board from one or several files, and what can be worked out where they are silent: kinds by
 * reference, rails by name, bodies by package, what a chip makes by its pins' names.
 *
 * <p>Way in: {@link ohmoscope.core.layout.Layouts}. May use: {@code board}, the JDK and JTS. Never: files, Spring.
 */
@NullMarked
package ohmoscope.core.layout;

import org.jspecify.annotations.NullMarked;
