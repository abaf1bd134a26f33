/** Tests of this room. */
@NullMarked
package io.lantrel.sql;

import org.jspecify.annotations.NullMarked;
