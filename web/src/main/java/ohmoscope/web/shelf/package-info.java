/** The shelf: all jobs, newest first. */
@NullMarked
package ohmoscope.web.shelf;

import org.jspecify.annotations.NullMarked;
