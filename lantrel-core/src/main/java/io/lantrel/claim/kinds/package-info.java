/** What claims mean: one class for each kind. */
@NullMarked
package io.lantrel.claim.kinds;

import org.jspecify.annotations.NullMarked;
