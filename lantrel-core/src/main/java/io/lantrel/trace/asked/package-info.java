/**
 * How a row is followed: a column that marks it is put into the text of the query, block by block,
 * so that the rows that come of it can be counted at each step.
 */
@NullMarked
package io.lantrel.trace.asked;

import org.jspecify.annotations.NullMarked;
