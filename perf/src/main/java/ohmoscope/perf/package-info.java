/** JMH benchmarks: locate by candidates and by pixels, and what storing frames costs. */
@NullMarked
package ohmoscope.perf;

import org.jspecify.annotations.NullMarked;
