/** What the product is measured on: captures, decision points and hunts in numbers. No shop's server carries it. */
@NullMarked
package ohmoscope.trials;

import org.jspecify.annotations.NullMarked;
