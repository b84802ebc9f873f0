/** Closing the loop: what was lifted, the same reading again, the hand-back page. */
@NullMarked
package ohmoscope.web.proof;

import org.jspecify.annotations.NullMarked;
