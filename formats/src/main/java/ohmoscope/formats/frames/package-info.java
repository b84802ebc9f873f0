/**
 * Frames as cameras and other programs leave them: 16-bit PGM and PNG sequences, TIFF, NumPy arrays, CSV matrices, single
 * pictures.
 *
 * <p>Way in: {@link ohmoscope.formats.frames.FrameStack#read}. May use: core.
 */
@NullMarked
package ohmoscope.formats.frames;

import org.jspecify.annotations.NullMarked;
