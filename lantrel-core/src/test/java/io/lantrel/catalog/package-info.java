/** Tests of this room. */
@NullMarked
package io.lantrel.catalog;

import org.jspecify.annotations.NullMarked;
