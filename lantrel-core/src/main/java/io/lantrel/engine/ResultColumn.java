package io.lantrel.engine;

import io.lantrel.catalog.ColumnType;

/**
 * A column of a result.
 *
 * @param heading its name
 * @param type its type, in the words of the SQL standard where there is one
 */
public record ResultColumn(String heading, ColumnType type) {}
