/** Compares two results: within one database by a query over both, else row by row. */
@NullMarked
package io.lantrel.compare.asked;

import org.jspecify.annotations.NullMarked;
