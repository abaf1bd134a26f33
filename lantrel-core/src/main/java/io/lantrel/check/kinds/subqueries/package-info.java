/** Findings about subqueries and set operations. */
@NullMarked
package io.lantrel.check.kinds.subqueries;

import org.jspecify.annotations.NullMarked;
