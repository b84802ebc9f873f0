/**
 * Open formats in and out: the job bundle of docs/formats, as a folder or a ZIP, streaming.
 *
 * <p>Way in: {@link ohmoscope.formats.BundleReader} and {@link ohmoscope.formats.BundleWriter}. May use: core, Jackson,
 * commons-csv, the JDK's ZIP. Never: Spring, SQL.
 */
@NullMarked
package ohmoscope.formats;

import org.jspecify.annotations.NullMarked;
