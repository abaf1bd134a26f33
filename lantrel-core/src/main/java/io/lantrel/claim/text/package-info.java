/** How claims are written, and where they stand. */
@NullMarked
package io.lantrel.claim.text;

import org.jspecify.annotations.NullMarked;
