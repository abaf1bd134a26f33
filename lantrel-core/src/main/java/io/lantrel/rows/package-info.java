/** Rows to be looked at: of a result, and as they stand after each join. */
@NullMarked
package io.lantrel.rows;

import org.jspecify.annotations.NullMarked;
