package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.ReferencesFile;
import io.lantrel.catalog.SchemaFile;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.SchemaStatement.InsertRows;
import java.io.IOException;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.function.Supplier;

/** A schema file on disk. What is wrong with it is told with file, line and column. */
public final class SchemaText {

  private final String name;
  private final SchemaFile file;
  private final Catalog catalog;

  private SchemaText(String name, SourceText source, Dialect dialect) {
    this.name = name;
    this.file = orPlace(name, source, () -> SchemaFile.read(source, dialect));
    this.catalog = orPlace(name, source, file::catalog);
    SampleData.reservedTable(catalog)
        .ifPresent(
            table -> {
              throw new DataException(
                  name + ": " + table + ", which Lantrel keeps for itself; rename it");
            });
  }

  /**
   * Reads a schema file.
   *
   * @throws DataException if there is none, or it is not UTF-8, or no schema
   */
  public static SchemaText read(Path file, Dialect dialect) {
    return new SchemaText(
        String.valueOf(file.getFileName()), source(file, "it must define the tables"), dialect);
  }

  /**
   * Reads a file of references to tables that are known otherwise.
   *
   * @throws DataException if there is none, or it is not UTF-8, or holds something else
   */
  public static ReferencesFile references(Path file, Catalog catalog) {
    String name = String.valueOf(file.getFileName());
    SourceText source = source(file, "it must hold references");
    return orPlace(name, source, () -> ReferencesFile.read(source, catalog));
  }

  private static SourceText source(Path file, String wanted) {
    String name = String.valueOf(file.getFileName());
    if (!Files.isRegularFile(file)) {
      throw new DataException(file + ": there is no such file; " + wanted);
    }
    try {
      return new SourceText(Files.readString(file, StandardCharsets.UTF_8));
    } catch (CharacterCodingException notUtf8) {
      throw new DataException(name + ": this is not UTF-8; save it as UTF-8", notUtf8);
    } catch (IOException failure) {
      throw new DataException(name + ": cannot be read: " + failure.getMessage(), failure);
    }
  }

  private static <T> T orPlace(String name, SourceText source, Supplier<T> reading) {
    try {
      return reading.get();
    } catch (SyntaxException wrong) {
      int line = source.place(wrong.problem().place()).line();
      int column = source.place(wrong.problem().place()).column();
      throw new DataException(name + ":" + line + ":" + column + ": " + wrong.getMessage(), wrong);
    }
  }

  /** What it defines. */
  public Catalog catalog() {
    return catalog;
  }

  /** What was passed over although it may matter, in sentences. */
  public List<String> notes() {
    return file.notes().stream().map(note -> name + ": " + note).toList();
  }

  List<InsertRows> rows() {
    return file.rows();
  }
}
