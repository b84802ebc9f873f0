/** Secret addresses for telephones on the local network. */
@NullMarked
package ohmoscope.web.phone;

import org.jspecify.annotations.NullMarked;
