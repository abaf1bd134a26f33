package io.lantrel.sample;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.SchemaFile;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.View;
import io.lantrel.engine.CsvLine;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.SyntaxException;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** A sample as files. */
final class SampleFiles {

  private static final String SCHEMA_FILE = "schema.sql";

  private static final Pattern NO_FILE = Pattern.compile("^\\.|[/\\\\\\x00-\\x1f]");

  private final Sample sample;
  private final Catalog catalog;
  private final Dialect dialect;

  SampleFiles(Sample sample) {
    this.sample = sample;
    this.catalog = sample.catalog();
    this.dialect = catalog.dialect();
  }

  void writeTo(Path folder) {
    Map<String, String> files = new LinkedHashMap<>();
    Set<String> names = new HashSet<>();
    for (SampledTable each : sample.tables()) {
      if (!names.add(fileName(each.table()).toLowerCase(Locale.ROOT))) {
        throw new SampleException(
            "two tables are called "
                + each.table().name()
                + ", and a folder has one file for a name; connect to one schema alone");
      }
      files.put(fileName(each.table()), csv(each));
    }
    files.put(SCHEMA_FILE, readAgain(schema()));
    List<Path> written = new ArrayList<>();
    try {
      refuseUnlessEmpty(folder);
      Files.createDirectories(folder);
      for (Map.Entry<String, String> file : files.entrySet()) {
        Path path = folder.resolve(file.getKey());
        written.add(path);
        Files.writeString(path, file.getValue(), StandardCharsets.UTF_8);
      }
    } catch (IOException failure) {
      written.forEach(each -> remove(each, failure));
      throw new SampleException(folder + ": cannot be written: " + failure.getMessage(), failure);
    }
  }

  private static void refuseUnlessEmpty(Path folder) throws IOException {
    if (!Files.exists(folder)) {
      return;
    }
    if (!Files.isDirectory(folder)) {
      throw new SampleException(folder + ": this is no folder; name one that is not there yet");
    }
    try (Stream<Path> there = Files.list(folder)) {
      if (there.findAny().isPresent()) {
        throw new SampleException(
            folder + ": there is something in this folder; name an empty one, or a new one");
      }
    }
  }

  private static void remove(Path file, IOException first) {
    try {
      Files.deleteIfExists(file);
    } catch (IOException failure) {
      first.addSuppressed(failure);
    }
  }

  /** A name that leads out of the folder is no file in it. */
  private static String fileName(Table table) {
    String name = table.name();
    if (NO_FILE.matcher(name).find()) {
      throw new SampleException(
          "the table "
              + name
              + " cannot be a file: its name begins with a dot, or holds a slash or a sign without"
              + " a shape");
    }
    return name + ".csv";
  }

  /** Names and types come from a database: what is written must mean the same tables again. */
  private String readAgain(String schema) {
    Catalog read;
    try {
      read = SchemaFile.read(new SourceText(schema), dialect).catalog();
    } catch (SyntaxException unread) {
      throw new SampleException(
          "the schema cannot be written so that it is read again: " + unread.getMessage(), unread);
    }
    List<List<String>> again = read.tables().stream().map(SampleFiles::names).toList();
    List<List<String>> wanted = sample.tables().stream().map(each -> names(each.table())).toList();
    if (!Set.copyOf(again).equals(Set.copyOf(wanted))) {
      throw new SampleException(
          "the schema cannot be written so that it is read again: "
              + wanted.stream()
                  .filter(each -> !again.contains(each))
                  .map(each -> each.get(0) + " has a column of a type that is not known")
                  .findFirst()
                  .orElse("a type that is not known makes tables of its own"));
    }
    return schema;
  }

  /** Of the table and its columns. */
  private static List<String> names(Table table) {
    return Stream.concat(Stream.of(table.name()), table.columns().stream().map(Column::name))
        .toList();
  }

  private static String csv(SampledTable table) {
    StringBuilder text = new StringBuilder();
    text.append(CsvLine.of(table.table().columns().stream().map(Column::name).toList()));
    table.rows().forEach(row -> text.append(CsvLine.of(row)));
    return text.toString();
  }

  // ---- schema.sql ----

  private String schema() {
    StringBuilder sql = new StringBuilder();
    sql.append("-- A sample: ").append(sample.size()).append(" of ").append(sample.sizeThere());
    sql.append(" rows.\n");
    if (!sample.masked().isEmpty()) {
      sql.append("-- Masked: ").append(asComment(String.join(", ", sample.masked()))).append(".\n");
    }
    for (SampledTable each : sample.tables()) {
      sql.append('\n').append(create(each.table()));
    }
    for (View view : catalog.views()) {
      if (view.query() != null) {
        sql.append('\n').append(create(view));
      }
    }
    return sql.toString();
  }

  /** A name may hold line breaks, behind which a comment would be over. */
  private static String asComment(String text) {
    return text.replaceAll("\\R", " ");
  }

  private String create(Table table) {
    List<String> parts = new ArrayList<>();
    for (Column column : table.columns()) {
      String word = column.nullable() ? "" : " NOT NULL";
      parts.add(dialect.write(column.name()) + " " + column.type().text() + word);
    }
    for (Key key : table.keys()) {
      if (!key.columns().isEmpty()) {
        parts.add((key.primary() ? "PRIMARY KEY " : "UNIQUE ") + columns(key.columns()));
      }
    }
    for (Reference reference : catalog.references()) {
      if (reference.basis() == Basis.DECLARED && reference.from().equals(table)) {
        parts.add(
            "FOREIGN KEY "
                + columns(reference.fromColumns())
                + " REFERENCES "
                + dialect.write(reference.to().name())
                + " "
                + columns(reference.toColumns()));
      }
    }
    return parts.stream()
        .collect(
            Collectors.joining(
                ",\n  ", "CREATE TABLE " + dialect.write(table.name()) + " (\n  ", "\n);\n"));
  }

  private String create(View view) {
    String columns = view.columns().isEmpty() ? "" : " " + columns(view.columns());
    return "CREATE VIEW "
        + dialect.write(view.name())
        + columns
        + " AS\n"
        + SqlPrinter.print(Objects.requireNonNull(view.query()), dialect)
        + ";\n";
  }

  private String columns(List<String> names) {
    return names.stream().map(dialect::write).collect(Collectors.joining(", ", "(", ")"));
  }
}
