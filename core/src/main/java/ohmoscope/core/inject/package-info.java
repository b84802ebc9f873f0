/**
 * The short as the supply sees it, and how to put current into it.
 *
 * <p>Ways in: {@link ohmoscope.core.inject.FaultResistance}, {@link ohmoscope.core.inject.InjectionPlan}. May use: board,
 * evidence, heat, the schools of diagnose. Never: Spring, files.
 */
@NullMarked
package ohmoscope.core.inject;

import org.jspecify.annotations.NullMarked;
