/** Injecting under a held key: what must be there before current flows, and what ends it. */
@NullMarked
package ohmoscope.core.live;

import org.jspecify.annotations.NullMarked;
