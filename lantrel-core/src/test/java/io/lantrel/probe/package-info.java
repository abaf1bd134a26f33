/** Tests of this room. */
@NullMarked
package io.lantrel.probe;

import org.jspecify.annotations.NullMarked;
