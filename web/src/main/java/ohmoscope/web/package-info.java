/**
 * The application that a technician sees: pages, their fragments, and the store behind them.
 *
 * <p>Packages by feature: shelf, sheet, capture, proof, imports, analysis; {@code store} holds all SQL, {@code config} the
 * wiring. Controllers read a request, call the core, and name a template; they hold no arithmetic of the job.
 */
@NullMarked
package ohmoscope.web;

import org.jspecify.annotations.NullMarked;
