/** Tests of this room. */
@NullMarked
package io.lantrel.ledger;

import org.jspecify.annotations.NullMarked;
