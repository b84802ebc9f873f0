/** Bundles in and out: upload with progress and cancel, export. */
@NullMarked
package ohmoscope.web.imports;

import org.jspecify.annotations.NullMarked;
