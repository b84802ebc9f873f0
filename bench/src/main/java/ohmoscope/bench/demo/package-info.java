/**
 * The demo world: boards of a made-up maker of field instruments and the jobs on its bench.
 *
 * <p>Way in: {@link ohmoscope.bench.demo.DemoJobs}.
 */
@NullMarked
package ohmoscope.bench.demo;

import org.jspecify.annotations.NullMarked;
