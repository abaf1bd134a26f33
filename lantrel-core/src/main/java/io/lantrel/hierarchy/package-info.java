/**
 * A table that refers to itself, seen as trees: its levels, how much lies below each row, and what
 * no tree should have. Enter through {@link io.lantrel.Lantrel}.
 */
@NullMarked
package io.lantrel.hierarchy;

import org.jspecify.annotations.NullMarked;
