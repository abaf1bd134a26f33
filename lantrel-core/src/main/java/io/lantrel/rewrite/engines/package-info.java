/** Queries of one product's SQL in another's: what differs, by sorts of words. */
@NullMarked
package io.lantrel.rewrite.engines;

import org.jspecify.annotations.NullMarked;
