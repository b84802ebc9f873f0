/** Naming the part before anything is heated. */
@NullMarked
package ohmoscope.web.name;

import org.jspecify.annotations.NullMarked;
