/** Asks for the rows of a sample, in rounds. */
@NullMarked
package io.lantrel.sample.asked;

import org.jspecify.annotations.NullMarked;
