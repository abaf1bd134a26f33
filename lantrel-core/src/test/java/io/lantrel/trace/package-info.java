/** Tests of what became of rows. */
@NullMarked
package io.lantrel.trace;

import org.jspecify.annotations.NullMarked;
