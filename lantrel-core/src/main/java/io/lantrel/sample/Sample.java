package io.lantrel.sample;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import java.nio.file.Path;
import java.util.List;

/**
 * A part of a database. Every reference that holds there holds here.
 *
 * @param catalog the tables that it has, with their keys and references
 * @param tables their rows, in the order of the catalog
 * @param followed the references that it is closed under: declared ones, and those that the rows
 *     show
 * @param traits what makes mistakes visible, and whether it is here
 * @param childless how many rows have partners there, along a reference towards them, and none here
 * @param masked the columns whose values were replaced, as {@code station.name}
 * @param queries what the queries that were given show in the database, in their order
 * @param remarks what is worth knowing besides, in sentences without their stop
 */
public record Sample(
    Catalog catalog,
    List<SampledTable> tables,
    List<Reference> followed,
    List<Trait> traits,
    long childless,
    List<String> masked,
    List<SeenQuery> queries,
    List<String> remarks) {
  public Sample {
    tables = List.copyOf(tables);
    followed = List.copyOf(followed);
    traits = List.copyOf(traits);
    masked = List.copyOf(masked);
    queries = List.copyOf(queries);
    remarks = List.copyOf(remarks);
  }

  /** How many rows it has in all. */
  public int size() {
    return tables.stream().mapToInt(each -> each.rows().size()).sum();
  }

  /** How many rows the tables of the database have in all. */
  public long sizeThere() {
    return tables.stream().mapToLong(SampledTable::there).sum();
  }

  /**
   * Writes a folder of sample data: {@code schema.sql} in the database's SQL, and a CSV file for
   * each table. Either all of it is written or nothing.
   *
   * @param folder one that is empty, or not there yet
   * @throws SampleException if it is there and has something in it, or cannot be written
   */
  public void writeTo(Path folder) {
    new SampleFiles(this).writeTo(folder);
  }
}
