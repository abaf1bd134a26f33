/** Findings about outer joins: what they keep, and what drops or swallows it again. */
@NullMarked
package io.lantrel.check.kinds.outer;

import org.jspecify.annotations.NullMarked;
