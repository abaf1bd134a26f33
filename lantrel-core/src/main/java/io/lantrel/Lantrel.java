package io.lantrel;

import io.lantrel.catalog.Catalog;
import io.lantrel.engine.SampleData;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SqlReader;
import io.lantrel.survey.Survey;
import io.lantrel.survey.Surveyor;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * Opens sample data and studies queries on it.
 *
 * <pre>{@code
 * try (Lantrel lantrel = Lantrel.open(Path.of("river-watch"))) {
 *   Study study = lantrel.study("SELECT s.name, r.name FROM station s JOIN river r ON r.id = s.river_id");
 *   study.findings().forEach(finding -> System.out.println(finding.message()));
 *   study.ledger().entries().forEach(System.out::println);
 * }
 * }</pre>
 *
 * <p>Not safe for use by several threads at once: open one for each.
 */
public final class Lantrel implements AutoCloseable {

  private final SampleData data;

  private Lantrel(SampleData data) {
    this.data = data;
  }

  /**
   * Opens a folder of sample data: {@code schema.sql} with CREATE TABLE statements, and a CSV file
   * for each table (RFC 4180, UTF-8, first line the column names; an empty field is NULL, {@code
   * ""} an empty text). All of it is loaded into an embedded database, or nothing.
   *
   * @throws io.lantrel.engine.DataException if the folder or one of its files cannot be used; the
   *     message names file, line and column
   * @throws io.lantrel.engine.DatabaseException if the database cannot be started
   */
  public static Lantrel open(Path folder) {
    return new Lantrel(SampleData.load(folder));
  }

  /** The tables with their columns, keys and references, as the schema declares them. */
  public Catalog catalog() {
    return data.catalog();
  }

  /** The database that runs the queries, as {@code DuckDB 2.0.0}. */
  public String engine() {
    return data.database().engine();
  }

  /** What is in the tables, and what violates the keys and references that are declared. */
  public Survey survey() {
    return new Surveyor(data.catalog(), data.database()).survey();
  }

  /**
   * Studies one statement.
   *
   * @throws IllegalArgumentException if the text holds no statement, or more than one; {@link
   *     #studies} takes several
   */
  public Study study(String sql) {
    List<Study> all = studies(sql);
    if (all.size() != 1) {
      throw new IllegalArgumentException("one statement is wanted, here are " + all.size());
    }
    return all.get(0);
  }

  /** Studies every statement of a text, in order; the list is empty if there is none. */
  public List<Study> studies(String text) {
    SourceText source = new SourceText(text);
    List<Study> studies = new ArrayList<>();
    SqlReader.read(source)
        .forEach(statement -> studies.add(new Study(data, source, statement, studies.size() + 1)));
    return studies;
  }

  @Override
  public void close() {
    data.close();
  }
}
