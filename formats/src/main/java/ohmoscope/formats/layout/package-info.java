/**
 * Boards from open layout files: each format is one class that a file's first bytes find.
 *
 * <p>Way in: {@link ohmoscope.formats.layout.LayoutFiles}. May use: {@code core.board}, {@code core.layout}, commons-csv.
 * A further format is a class that implements {@link ohmoscope.formats.layout.BoardFormat} and a line in
 * {@code META-INF/services}.
 */
@NullMarked
package ohmoscope.formats.layout;

import org.jspecify.annotations.NullMarked;
