/** Frames from anywhere into a job, and pictures out of it. */
@NullMarked
package ohmoscope.web.frames;

import org.jspecify.annotations.NullMarked;
