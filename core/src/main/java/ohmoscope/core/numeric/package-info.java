/**
 * Loops over long arrays of single precision, written so that the compiler makes vector instructions of them: all arrays
 * of one loop are read and written at one and the same index.
 */
package ohmoscope.core.numeric;
