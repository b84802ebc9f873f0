/**
 * What a job's evidence comes to.
 *
 * <p>Way in: {@link ohmoscope.web.judge.Judge}. May use: analysis, store, the core. Never: pages.
 */
@NullMarked
package ohmoscope.web.judge;

import org.jspecify.annotations.NullMarked;
