/** Findings about recursion, and about hierarchies that are walked. */
@NullMarked
package io.lantrel.check.kinds.hierarchies;

import org.jspecify.annotations.NullMarked;
