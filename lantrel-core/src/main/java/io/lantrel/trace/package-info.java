/**
 * What became of a row: why one is in a result, and from which rows it was put together; and why
 * one of a table, or one that was expected, is not in it. Enter through {@link io.lantrel.Study}.
 */
@NullMarked
package io.lantrel.trace;

import org.jspecify.annotations.NullMarked;
