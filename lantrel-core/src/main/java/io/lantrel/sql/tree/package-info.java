/**
 * The tree of a statement: immutable records in sealed families. The first component of every node
 * is its {@link io.lantrel.sql.tree.Span}, so that a finding can point at exact characters. {@link
 * io.lantrel.sql.tree.Node#children()} is the one truth on traversal. The tree knows neither the
 * parser nor the printer nor the meaning of a name.
 */
@NullMarked
package io.lantrel.sql.tree;

import org.jspecify.annotations.NullMarked;
