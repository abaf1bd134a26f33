/** Tests of rows that are looked at. */
@NullMarked
package io.lantrel.rows;

import org.jspecify.annotations.NullMarked;
