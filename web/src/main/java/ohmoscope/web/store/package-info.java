/** All SQL. One class a table group; named statements; records in and out. */
@NullMarked
package ohmoscope.web.store;

import org.jspecify.annotations.NullMarked;
