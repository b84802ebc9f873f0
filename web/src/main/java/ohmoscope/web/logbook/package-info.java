/** The logbook: all jobs by how they went, and what they come to in numbers. */
@NullMarked
package ohmoscope.web.logbook;

import org.jspecify.annotations.NullMarked;
