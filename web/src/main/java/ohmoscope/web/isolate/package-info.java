/** What was taken off, and what that changed. */
@NullMarked
package ohmoscope.web.isolate;

import org.jspecify.annotations.NullMarked;
