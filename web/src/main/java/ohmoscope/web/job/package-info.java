/** A job laid open for a page: its head, its advice in words, its steps with their cautions. */
@NullMarked
package ohmoscope.web.job;

import org.jspecify.annotations.NullMarked;
