package io.lantrel.rewrite;

/**
 * On which data a query in its new form would not give the same rows.
 *
 * @param words such data, and what each form makes of them, in a clause
 * @param example the query in that of the two forms that depends on such data, as it would be if
 *     there were such a row; empty if none can be made up
 * @param row what that row is, in a few words; empty if none can be made up
 */
public record Caveat(String words, String example, String row) {}
