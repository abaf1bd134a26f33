/** Findings about aggregates, and about rows that a join repeats. */
@NullMarked
package io.lantrel.check.kinds.totals;

import org.jspecify.annotations.NullMarked;
