/** Tests of this room. */
@NullMarked
package io.lantrel.engine;

import org.jspecify.annotations.NullMarked;
