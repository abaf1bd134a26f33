package io.lantrel.sql;

/**
 * A stretch of a text, in the two forms that programs and people use.
 *
 * @param offset of the first character, from 0
 * @param length in characters
 * @param line of the first character, from 1
 * @param column of the first character, from 1
 * @param endLine line where it ends
 * @param endColumn column behind its last character
 */
public record Place(int offset, int length, int line, int column, int endLine, int endColumn) {}
