/** Injecting and looking live: the bench's instruments under the technician's held key. */
@NullMarked
package ohmoscope.web.live;

import org.jspecify.annotations.NullMarked;
