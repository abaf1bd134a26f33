package io.lantrel.resolve;

import io.lantrel.catalog.ColumnType;
import io.lantrel.sql.tree.Expression;

/**
 * A column of a block's result.
 *
 * @param position from 0
 * @param name its heading
 * @param value what it shows; for a column that came from {@code *}, its name
 * @param type its type, as far as known
 */
public record OutputColumn(int position, String name, Expression value, ColumnType type) {}
