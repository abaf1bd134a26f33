/** Findings about names: of tables, columns, aliases and headings. */
@NullMarked
package io.lantrel.check.kinds.names;

import org.jspecify.annotations.NullMarked;
