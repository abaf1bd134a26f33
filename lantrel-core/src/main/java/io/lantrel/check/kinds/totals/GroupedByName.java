package io.lantrel.check.kinds.totals;

import io.lantrel.catalog.Key;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Window;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Rows of one table put together by a name that two of them share: two people become one. A column
 * that most rows share with others is a category, and grouping by it is what is meant.
 */
public final class GroupedByName implements Check {

  /** What many rows have in common, however few there are yet: nobody takes it for a name. */
  private static final Set<String> CATEGORIES =
      Set.of(
          "kind",
          "type",
          "category",
          "class",
          "status",
          "state",
          "role",
          "level",
          "grade",
          "rank",
          "group",
          "shift",
          "season",
          "colour",
          "color",
          "size",
          "unit",
          "currency",
          "gender",
          "sex",
          "town",
          "city",
          "district",
          "region",
          "country",
          "language");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    List<Suspicion> suspicions = new ArrayList<>();
    if (!block.groupedBy().isEmpty()) {
      Set<UseColumn> columns = columns(block.groupedBy(), block);
      names(columns, block).stream()
          .filter(named -> !isSought(named, block))
          .forEach(named -> suspicions.add(suspicion(named, place(named, subject), true, subject)));
    } else if (block.select().distinct() && !block.steps().isEmpty()) {
      List<Expression> shown = block.outputs().stream().map(OutputColumn::value).toList();
      Set<UseColumn> columns = columns(shown, block);
      boolean ofOneTable = columns.stream().map(UseColumn::use).distinct().count() == 1;
      if (ofOneTable && columns.size() == shown.size()) {
        names(columns, block)
            .forEach(
                named -> suspicions.add(suspicion(named, place(named, subject), false, subject)));
      }
    }
    Set<Named> inWindows = new HashSet<>();
    for (FunctionCall call : subject.nodes(FunctionCall.class)) {
      if (call.key().equals("count")
          && call.distinct()
          && call.arguments().size() == 1
          && !isCalledNames(call, block)) {
        names(columns(call.arguments(), block), block)
            .forEach(named -> suspicions.add(suspicion(named, call.span(), false, subject)));
      }
      Window window = call.over();
      if (window != null && !window.partitionBy().isEmpty()) {
        Span parts = window.partitionBy().stream().map(Node::span).reduce(Span::to).orElseThrow();
        names(columns(window.partitionBy(), block), block).stream()
            .filter(inWindows::add)
            .forEach(named -> suspicions.add(suspicion(named, parts, false, subject)));
      }
    }
    return suspicions;
  }

  /** Whether HAVING keeps just the names that several rows of the table share. */
  private static boolean isSought(Named named, QueryBlock block) {
    Expression having = block.select().having();
    return having != null
        && Condition.terms(having).stream()
            .anyMatch(
                term ->
                    term instanceof Comparison comparison
                        && comparison.left() instanceof FunctionCall count
                        && count.key().equals("count")
                        && isOfNamed(count, named, block)
                        && comparison.right() instanceof Literal number
                        && isSeveral(comparison.operator(), number.text()));
  }

  private static boolean isSeveral(ComparisonOperator operator, String number) {
    return (operator == ComparisonOperator.GREATER && number.equals("1"))
        || (operator == ComparisonOperator.GREATER_OR_EQUAL && number.equals("2"));
  }

  /** A count that one row of the table cannot raise above 1. */
  private static boolean isOfNamed(FunctionCall count, Named named, QueryBlock block) {
    if (count.star() || !count.distinct()) {
      return block.uses().size() == 1;
    }
    return count.arguments().size() == 1
        && block
            .column(count.arguments().get(0))
            .filter(column -> column.use().equals(named.use()))
            .isPresent();
  }

  /** Whether the heading says that names are counted: {@code COUNT(DISTINCT w.name) AS names}. */
  private static boolean isCalledNames(FunctionCall call, QueryBlock block) {
    return block.outputs().stream()
        .filter(output -> output.value().equals(call))
        .anyMatch(output -> output.name().toLowerCase(Locale.ROOT).matches(".*names?"));
  }

  /** The names of a table use, none of which is its key. */
  private record Named(TableUse use, List<UseColumn> columns) {}

  private static Set<UseColumn> columns(List<Expression> values, QueryBlock block) {
    Set<UseColumn> columns = new HashSet<>();
    values.forEach(each -> block.column(each).filter(block::isOwn).ifPresent(columns::add));
    return columns;
  }

  private static List<Named> names(Set<UseColumn> columns, QueryBlock block) {
    Set<TableUse> fixed = block.determinedBy(columns);
    List<Named> found = new ArrayList<>();
    for (TableUse use : block.uses()) {
      List<UseColumn> own =
          columns.stream()
              .filter(each -> each.use().equals(use))
              .sorted((one, other) -> Integer.compare(one.position(), other.position()))
              .toList();
      boolean keyed = use.table().filter(table -> !table.keys().isEmpty()).isPresent();
      boolean named =
          keyed
              && own.stream().anyMatch(each -> isName(each, use) && !refers(each, block))
              && own.stream().allMatch(each -> each.type().family() == TypeFamily.TEXT);
      if (named && !fixed.contains(use)) {
        found.add(new Named(use, own));
      }
    }
    return found;
  }

  /** What refers to another table is no name of its own. */
  private static boolean refers(UseColumn column, QueryBlock block) {
    return block.catalog().references().stream()
        .filter(each -> column.use().table().filter(each.from()::equals).isPresent())
        .anyMatch(each -> each.fromColumns().contains(column.tableColumn()));
  }

  /** The first text of its table, or called a name. */
  private static boolean isName(UseColumn column, TableUse use) {
    Table table = use.table().orElseThrow();
    boolean first =
        table.identifyingColumns().stream()
            .filter(each -> !table.keys().get(0).columns().contains(each.name()))
            .anyMatch(each -> each.name().equals(column.tableColumn()));
    boolean category =
        isOfACategory(column.tableColumn()) && !column.tableColumn().equalsIgnoreCase(table.name());
    return (first && !category) || column.tableColumn().toLowerCase(Locale.ROOT).contains("name");
  }

  private static boolean isOfACategory(String column) {
    return Words.ofName(column).stream().anyMatch(CATEGORIES::contains);
  }

  private static Span place(Named named, Subject subject) {
    QueryBlock block = subject.block();
    List<Expression> written =
        block.select().groupBy().isEmpty()
            ? block.outputs().stream().map(OutputColumn::value).toList()
            : block.select().groupBy();
    return written.stream()
        .filter(
            each ->
                block.column(each).filter(column -> named.columns().contains(column)).isPresent())
        .map(Expression::span)
        .filter(span -> !span.isNowhere())
        .reduce(Span::to)
        .orElse(block.select().span());
  }

  /** How many rows there are, how many names several share, and how many rows these are. */
  private record Shared(long rows, long names, long sharing) {

    /** How many different names there are. */
    long different() {
      return rows - sharing + names;
    }
  }

  private static Suspicion suspicion(Named named, Span place, boolean grouped, Subject subject) {
    Optional<Question<Shared>> shared = subject.rows().map(rows -> shared(rows, named));
    return Suspicion.asking(
        Kind.GROUPED_BY_NAME,
        place,
        Stream.concat(Stream.of(place), subject.edits().distinct().stream()).toList(),
        shared,
        found ->
            found
                .filter(each -> each.names() > 0 && each.different() * 2 > each.rows())
                .map(each -> conclude(named, grouped, each, subject)));
  }

  private static Question<Shared> shared(JoinedRows rows, Named named) {
    Relation side = rows.side(named.use().item());
    List<Expression> names = named.columns().stream().map(each -> rows.column(side, each)).toList();
    FromItem groups =
        Sql.derived(
            side.select(
                false, List.of(Sql.as(Sql.count(), "n")), Sql.isNotNull(names.get(0)), names, null),
            SampleData.RESERVED + "names");
    Expression size = Sql.column(SampleData.RESERVED + "names", "n");
    Expression several = Sql.greater(size, Sql.number(1));
    Query query =
        Query.of(
            Sql.select(
                List.of(
                    Sql.as(FunctionCall.of("SUM", size), "c0"),
                    Sql.as(Sql.countIf(several), "c1"),
                    Sql.as(FunctionCall.of("SUM", Sql.choose(several, size, Sql.number(0))), "c2")),
                groups,
                null));
    return Question.numbers(
        side, query, 3, row -> new Shared(row.figure(0), row.figure(1), row.figure(2)));
  }

  private static Conclusion conclude(Named named, boolean grouped, Shared shared, Subject subject) {
    TableUse use = named.use();
    Key key = use.keys().get(0);
    List<String> keys =
        key.columns().stream()
            .flatMap(name -> use.column(name).stream())
            .map(UseColumn::written)
            .toList();
    String names = Words.list(named.columns().stream().map(UseColumn::words).toList());
    String message =
        "In "
            + names
            + " "
            + Words.count(shared.sharing(), use.rowWord())
            + " are like another "
            + use.rowWord()
            + (grouped ? " and fall into one group with it" : " and count as one with it")
            + ". "
            + (grouped
                ? "Group by " + String.join(", ", keys) + " too."
                : "Tell them apart by " + String.join(", ", keys) + ".");
    List<List<Edit>> repairs =
        grouped
            ? List.of(List.of(subject.edits().addGrouping(String.join(", ", keys))))
            : List.of();
    Map<String, Long> figures = Map.of("rows that share a name", shared.sharing());
    JoinedRows rows = subject.rows().orElseThrow();
    return Conclusion.asking(
        Severity.WARNING,
        message,
        sharedNames(rows, named),
        facts -> new Evidence(figures, List.of(), facts),
        repairs);
  }

  private static final int SHOWN = 3;

  /** The names that several share, in sentences. */
  private static Question<List<String>> sharedNames(JoinedRows rows, Named named) {
    Relation side = rows.side(named.use().item());
    List<Expression> names = named.columns().stream().map(each -> rows.column(side, each)).toList();
    List<SelectItem> items = new ArrayList<>();
    names.forEach(each -> items.add(Sql.as(each, "c" + items.size())));
    items.add(Sql.as(Sql.count(), "c" + items.size()));
    Query query =
        Sql.first(
            side.select(
                false,
                items,
                Sql.isNotNull(names.get(0)),
                names,
                Sql.greater(Sql.count(), Sql.number(1))),
            names,
            SHOWN);
    String row = named.use().rowWord();
    return Question.values(
        side,
        query,
        items.size(),
        answer ->
            answer.rows().stream()
                .map(
                    values ->
                        Words.count(
                                Long.parseLong(String.valueOf(values.get(values.size() - 1))), row)
                            + " are called "
                            + String.join(
                                " ",
                                values.subList(0, values.size() - 1).stream()
                                    .map(String::valueOf)
                                    .toList()))
                .toList());
  }
}
