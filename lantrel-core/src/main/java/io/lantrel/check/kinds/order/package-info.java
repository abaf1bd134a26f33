/** Findings about the order of a result, and about what is cut off from it. */
@NullMarked
package io.lantrel.check.kinds.order;

import org.jspecify.annotations.NullMarked;
