/** Parts under the microscope, one after another. */
@NullMarked
package ohmoscope.web.look;

import org.jspecify.annotations.NullMarked;
