/**
 * What a query can use: tables, columns, keys, and references from one table to another or to
 * itself. A {@link io.lantrel.catalog.Catalog} is immutable and knows nothing of rows; whether its
 * constraints hold is a question for the sample data. Enter through {@link
 * io.lantrel.catalog.SchemaFile} or by building a catalog of tables.
 */
@NullMarked
package io.lantrel.catalog;

import org.jspecify.annotations.NullMarked;
