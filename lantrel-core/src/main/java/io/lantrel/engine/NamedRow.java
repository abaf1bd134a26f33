package io.lantrel.engine;

import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * A row of a table, named by its key and, if it has one, its first text; or a row of a result,
 * named by what it shows.
 *
 * @param table the table; empty for a row of a result
 * @param columns the columns that tell it from others
 * @param values their values as text, null for NULL
 * @param with the rows of further tables that it is joined to, if only these tell it from others
 */
public record NamedRow(
    String table, List<String> columns, List<@Nullable String> values, List<NamedRow> with) {
  public NamedRow {
    columns = List.copyOf(columns);
    values = Collections.unmodifiableList(new ArrayList<>(values));
    with = List.copyOf(with);
  }

  /** A row that is told by its own table. */
  public NamedRow(String table, List<String> columns, List<@Nullable String> values) {
    this(table, columns, values, List.of());
  }

  /**
   * A row of a result.
   *
   * @param headings of its columns, no two alike
   * @param values what it shows there as text, null for NULL
   */
  public static NamedRow ofResult(List<String> headings, List<@Nullable String> values) {
    return new NamedRow("", headings, values);
  }

  /**
   * In words: {@code station 14 (Spare Float)}, or {@code station 14 with reading 3}; of a result
   * {@code (river Aven, readings 3)}.
   */
  public String words() {
    return with.isEmpty()
        ? own()
        : own()
            + " with "
            + with.stream().map(NamedRow::words).collect(Collectors.joining(" and "));
  }

  private String own() {
    if (table.isEmpty()) {
      String shown =
          IntStream.range(0, columns.size())
              .mapToObj(i -> columns.get(i) + " " + shown(values.get(i)))
              .collect(Collectors.joining(", "));
      return columns.size() == 1 ? shown : "(" + shown + ")";
    }
    String key = shown(values.get(0));
    String rest = values.stream().skip(1).map(NamedRow::shown).collect(Collectors.joining(", "));
    return table + " " + key + (rest.isEmpty() ? "" : " (" + rest + ")");
  }

  private static String shown(@Nullable String value) {
    return value == null ? "NULL" : Words.shown(value);
  }
}
