/** Claims put to a database, and proven where that needs none. */
@NullMarked
package io.lantrel.claim.asked;

import org.jspecify.annotations.NullMarked;
