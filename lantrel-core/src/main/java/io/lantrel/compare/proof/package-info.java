/**
 * Whether two queries give the same rows for all data that keep the constraints: both are brought
 * into one form by rules each of which keeps the rows, and the forms are compared.
 */
@NullMarked
package io.lantrel.compare.proof;

import org.jspecify.annotations.NullMarked;
