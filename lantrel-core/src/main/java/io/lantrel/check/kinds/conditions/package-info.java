/** Findings about conditions: what they compare, and what they let through. */
@NullMarked
package io.lantrel.check.kinds.conditions;

import org.jspecify.annotations.NullMarked;
