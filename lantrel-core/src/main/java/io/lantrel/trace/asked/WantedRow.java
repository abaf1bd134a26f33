package io.lantrel.trace.asked;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.Table;
import io.lantrel.edit.RowCondition;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.NameProblem;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.trace.TraceException;
import io.lantrel.words.Words;
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

  /** Whether a text has that form; else it is a condition over the headings of the result. */
  static boolean isOne(String text) {
    return FORM.matcher(text).matches();
  }

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
    List<Way> ofTable = all.stream().filter(way -> isOf(way, name)).toList();
    // A table that goes by its own name here is meant everywhere; an alias means one use.
    List<Way> byAlias =
        all.stream()
            .filter(way -> isSame(way.use().name(), name) && !ofTable.contains(way))
            .toList();
    List<Way> chosen = byAlias.isEmpty() ? ofTable : byAlias;
    Optional<Table> table = chosen.stream().findFirst().flatMap(way -> way.use().table());
    if (table.isEmpty()) {
      throw new TraceException(unknown(name, all, catalog));
    }
    return new WantedRow(name, condition, table.get(), chosen);
  }

  private static boolean isOf(Way way, String table) {
    return way.use().table().filter(of -> isSame(of.name(), table)).isPresent();
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
    boolean there = catalog.table(name).isPresent();
    String from = "it is put together from " + Words.list(List.copyOf(known));
    List<String> near = NearNames.of(name, names);
    return (there
            ? "the query has no rows of " + name + ": it is not in its FROM"
            : "there is no table " + name + " in this query")
        + (near.isEmpty() ? "; " + from : NearNames.instead(name, names, ""));
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
      RowCondition read = RowCondition.read(text, table, alias, catalog);
      if (read.hasParameter()) {
        throw new TraceException("behind where there can be no parameter");
      }
      if (read.problem().isPresent()) {
        throw new TraceException("behind where: " + words(read.problem().get()));
      }
      return read.qualified();
    } catch (SyntaxException wrong) {
      throw new TraceException("behind where: " + wrong.getMessage());
    }
  }

  private String words(NameProblem problem) {
    if (problem instanceof NameProblem.UnknownColumn column) {
      String wrong = column.column().name().text();
      List<String> columns = table.columns().stream().map(Column::name).toList();
      return table.name()
          + " has no column "
          + wrong
          + NearNames.instead(wrong, columns, "its columns are");
    }
    Span place = problem.place();
    String part = place.end() <= text.length() ? text.substring(place.start(), place.end()) : text;
    return problem instanceof NameProblem.MisplacedAggregate
        ? "there can be no aggregate here, as " + part
        : part + " means nothing; the condition is about " + table.name() + " alone";
  }
}
