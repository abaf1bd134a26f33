package io.lantrel.world;

import io.lantrel.Scratch;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Tables with their rows.
 *
 * @param tables in an order in which each refers only to earlier ones and to itself
 * @param rows of each table by its name; values as text, null for NULL
 */
public record World(List<Table> tables, Map<String, List<List<@Nullable String>>> rows) {

  /** A table; its key is told by the columns that begin it. */
  public record Table(
      String name, List<Column> columns, int keyColumns, List<Reference> references) {

    public List<String> key() {
      return columns.stream().limit(keyColumns).map(Column::name).toList();
    }

    /** The column that a person would show. */
    public String label() {
      return name + "_label";
    }

    String definition() {
      List<String> parts = new ArrayList<>();
      columns.forEach(
          each ->
              parts.add(each.name() + " " + each.type() + (each.nullable() ? "" : " NOT NULL")));
      parts.add("PRIMARY KEY (" + String.join(", ", key()) + ")");
      references.forEach(each -> parts.add(each.definition()));
      return "CREATE TABLE " + name + " (" + String.join(", ", parts) + ");";
    }
  }

  public record Column(String name, String type, boolean nullable) {}

  /** Some columns that refer to the key of a table. */
  public record Reference(
      String from, List<String> columns, String target, List<String> targetColumns) {

    String definition() {
      return "FOREIGN KEY ("
          + String.join(", ", columns)
          + ") REFERENCES "
          + target
          + " ("
          + String.join(", ", targetColumns)
          + ")";
    }

    public boolean isOwn() {
      return from.equals(target);
    }

    /** The condition of a join along it. */
    public String condition(String fromAlias, String targetAlias) {
      List<String> equalities = new ArrayList<>();
      for (int i = 0; i < columns.size(); i++) {
        equalities.add(
            targetAlias + "." + targetColumns.get(i) + " = " + fromAlias + "." + columns.get(i));
      }
      return String.join(" AND ", equalities);
    }
  }

  public Table table(String name) {
    return tables.stream().filter(each -> each.name().equals(name)).findFirst().orElseThrow();
  }

  public List<Reference> references() {
    return tables.stream().flatMap(each -> each.references().stream()).toList();
  }

  public String schema() {
    return tables.stream().map(Table::definition).collect(Collectors.joining("\n"));
  }

  /** Writes it as sample data. */
  public Path folder() {
    try {
      Path folder = Scratch.folder("made");
      Files.writeString(folder.resolve("schema.sql"), schema());
      for (Table table : tables) {
        Stream<String> lines =
            rows.getOrDefault(table.name(), List.of()).stream()
                .map(row -> row.stream().map(World::cell).collect(Collectors.joining(",")));
        String head =
            table.columns().stream().map(Column::name).collect(Collectors.joining(",")) + "\n";
        Files.writeString(
            folder.resolve(table.name() + ".csv"),
            head + lines.map(line -> line + "\n").collect(Collectors.joining()));
      }
      return folder;
    } catch (IOException failure) {
      throw new IllegalStateException(failure);
    }
  }

  private static String cell(@Nullable String value) {
    return value == null ? "" : "\"" + value + "\"";
  }

  /** The same with fewer rows: half of a table, then one row less. */
  Stream<World> smaller() {
    return tables.stream()
        .map(Table::name)
        .flatMap(
            name -> {
              int size = rows.getOrDefault(name, List.of()).size();
              Stream<World> halves =
                  size < 4
                      ? Stream.of()
                      : Stream.of(without(name, 0, size / 2), without(name, size / 2, size));
              return Stream.concat(
                  halves,
                  Stream.iterate(size - 1, i -> i >= 0, i -> i - 1)
                      .map(i -> without(name, i, i + 1)));
            });
  }

  private World without(String name, int from, int to) {
    Map<String, List<List<@Nullable String>>> fewer = new TreeMap<>(rows);
    List<List<@Nullable String>> left = new ArrayList<>(rows.getOrDefault(name, List.of()));
    left.subList(from, to).clear();
    fewer.put(name, left);
    return new World(tables, fewer);
  }

  /** For a failure's message. */
  public String words() {
    StringBuilder words = new StringBuilder(schema()).append('\n');
    rows.forEach((name, all) -> words.append(name).append(' ').append(all).append('\n'));
    return words.toString();
  }
}
