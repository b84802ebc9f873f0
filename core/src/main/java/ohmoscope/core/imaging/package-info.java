/**
 * Thermal captures: frames as a stream, how a picture lies over the board, and what the camera did meanwhile
 * (noise, shake, drift, re-zeroing).
 *
 * <p>Way in: {@link ohmoscope.core.imaging.Registration} for geometry, {@link ohmoscope.core.imaging.FrameScan} for the
 * camera. May use: board, EJML. Never: files, Spring.
 */
@NullMarked
package ohmoscope.core.imaging;

import org.jspecify.annotations.NullMarked;
