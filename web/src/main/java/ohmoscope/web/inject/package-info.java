/** Planning an injection, and comparing it with what the supply then showed. */
@NullMarked
package ohmoscope.web.inject;

import org.jspecify.annotations.NullMarked;
