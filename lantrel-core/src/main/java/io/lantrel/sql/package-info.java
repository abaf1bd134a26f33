/**
 * From a text to its tree and back. {@link io.lantrel.sql.SqlReader} splits a text into statements
 * and reads each; {@link io.lantrel.sql.SqlPrinter} writes a tree as SQL; {@link
 * io.lantrel.sql.SchemaReader} reads schema files, and {@link io.lantrel.sql.Dialect} says where
 * products read and write differently; {@link io.lantrel.sql.SourceText} turns offsets into lines
 * and columns; {@link io.lantrel.sql.Edit} changes a text in place. Nothing here knows what a name
 * means.
 */
@NullMarked
package io.lantrel.sql;

import org.jspecify.annotations.NullMarked;
