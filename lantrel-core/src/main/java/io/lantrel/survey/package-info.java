/**
 * A look at the tables before any query: rows, keys, references, which table refers to itself, and
 * the rows that violate what the schema declares. Enter through {@link io.lantrel.survey.Surveyor}.
 */
@NullMarked
package io.lantrel.survey;

import org.jspecify.annotations.NullMarked;
