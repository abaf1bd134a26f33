package io.lantrel.catalog;

/**
 * A column of a table.
 *
 * @param name its name
 * @param type its type
 * @param nullable whether it may be NULL, as declared
 */
public record Column(String name, ColumnType type, boolean nullable) {}
