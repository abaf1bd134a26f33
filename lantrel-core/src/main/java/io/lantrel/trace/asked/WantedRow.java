package io.lantrel.trace.asked;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Table;
import io.lantrel.edit.RowCondition;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.Expression;
import io.lantrel.trace.TraceException;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Which rows of a table are meant, as in {@code station where id = 7}: by the table, or by what it
 * goes by in the query.
 *
 * @param name the table or alias, as it is written
 * @param text the condition, as it is written; empty for all rows
 * @param table the table
 * @param ways the table uses in the query that are meant
 */
record WantedRow(String name, String text, Table table, List<Way> ways) {

  /** What the table goes by where the rows are picked out. */
  static final String ALIAS = "lantrel_row";

  private static final Pattern FORM =
      Pattern.compile(
          "\\s*(\"(?:[^\"]|\"\")+\"|[\\p{L}_][\\p{L}\\p{N}_$.]*)\\s*(?:where\\s(.*\\S))?\\s*",
          Pattern.CASE_INSENSITIVE | Pattern.DOTALL);

  /**
   * Reads it.
   *
   * @throws TraceException if it has another form, or the query has no such table
   */
  static WantedRow read(String text, Resolution resolution, Catalog catalog) {
    Matcher form = FORM.matcher(text);
    if (!form.matches()) {
      throw new TraceException(
          "a row is described by its table and a condition, as station where id = 7; not as "
              + text);
    }
    String name = form.group(1).replace("\"", "");
    String condition = Optional.ofNullable(form.group(2)).orElse("");
    List<Way> all = Way.all(resolution);
    List<Way> byAlias = all.stream().filter(way -> isSame(way.use().name(), name)).toList();
    List<Way> chosen =
        byAlias.isEmpty()
            ? all.stream()
                .filter(way -> way.use().table().filter(of -> isSame(of.name(), name)).isPresent())
                .toList()
            : byAlias;
    Optional<Table> table = chosen.stream().findFirst().flatMap(way -> way.use().table());
    if (table.isEmpty()) {
      throw new TraceException(unknown(name, all, catalog));
    }
    return new WantedRow(name, condition, table.get(), chosen);
  }

  private static boolean isSame(String one, String other) {
    return one.equalsIgnoreCase(other);
  }

  private static String unknown(String name, List<Way> all, Catalog catalog) {
    Set<String> known = new LinkedHashSet<>();
    for (Way way : all) {
      known.add(way.use().words());
    }
    Set<String> names = new LinkedHashSet<>();
    all.stream().map(Way::use).map(TableUse::name).forEach(names::add);
    all.stream().flatMap(way -> way.use().table().stream()).map(Table::name).forEach(names::add);
    List<String> near = NearNames.of(name, new ArrayList<>(names));
    boolean there = catalog.table(name).isPresent();
    return (there
            ? "the query has no rows of " + name + ": it is not in its FROM"
            : "there is no table " + name + " in this query")
        + (near.isEmpty()
            ? "; it is put together from " + Words.list(List.copyOf(known))
            : "; close to it: " + Words.list(near));
  }

  /**
   * The condition; one that all rows meet if none is given.
   *
   * @param alias what the table goes by
   * @throws TraceException if it is no condition over the table
   */
  Expression condition(Catalog catalog, String alias) {
    if (text.isEmpty()) {
      return Sql.always();
    }
    try {
      return RowCondition.read(text, table, alias, catalog).condition();
    } catch (SyntaxException wrong) {
      throw new TraceException("behind where: " + wrong.getMessage());
    }
  }
}
