/** Tests of this room. */
@NullMarked
package io.lantrel.resolve;

import org.jspecify.annotations.NullMarked;
