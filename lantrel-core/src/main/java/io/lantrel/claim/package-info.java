/**
 * What somebody says of a query's result, kept with the query, and whether it is so. In {@code
 * claim/text} claims are read, in {@code claim/kinds} there is a class for each kind, {@code
 * claim/asked} finds out.
 */
@NullMarked
package io.lantrel.claim;

import org.jspecify.annotations.NullMarked;
