package io.lantrel.rewrite.forms;

import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Scalar subqueries of SELECT that depend on the row outside, as LEFT JOIN. Those over the same
 * rows share one join. A row has one partner at most: by a key, or because the partners are grouped
 * by what is compared.
 */
final class ScalarToJoin {

  /** What an aggregate of no row gives: these NULL, as a row without a partner has it. */
  private static final Set<String> NULL_OF_NOTHING =
      Set.of(
          "sum",
          "min",
          "max",
          "avg",
          "string_agg",
          "group_concat",
          "listagg",
          "array_agg",
          "bool_and",
          "bool_or",
          "every",
          "stddev",
          "variance",
          "median");

  /** What the columns that hold aggregates are called. */
  private static final Map<String, String> NAMES =
      Map.of("count", "number", "sum", "total", "avg", "average");

  private final Reading reading;
  private final QueryBlock block;

  ScalarToJoin(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
  }

  /** A subquery, and what it is made of; or why it stays. */
  private record Asked(
      Value.ScalarQuery place, SelectItem.Output item, @Nullable QueryBlock inner, String stays) {
    QueryBlock read() {
      return Objects.requireNonNull(inner);
    }
  }

  FormEdits change() {
    List<Asked> asked = new ArrayList<>();
    for (SelectItem item : block.select().items()) {
      if (item instanceof SelectItem.Output output) {
        Aggregates.withoutQueries(output.value())
            .filter(Value.ScalarQuery.class::isInstance)
            .map(Value.ScalarQuery.class::cast)
            .filter(scalar -> !reading.namesOnlyWithin(scalar.query(), scalar.query().span()))
            .forEach(scalar -> asked.add(asked(scalar, output)));
      }
    }
    Optional<Asked> first = asked.stream().filter(each -> each.stays().isEmpty()).findFirst();
    if (first.isEmpty()) {
      return asked.isEmpty() ? FormEdits.NONE : FormEdits.stays(asked.get(0).stays());
    }
    List<Edit> before = before(first.get().read());
    if (!before.isEmpty()) {
      return FormEdits.of(before);
    }
    String rows = rows(first.get());
    List<Asked> shared =
        asked.stream()
            .filter(each -> each.stays().isEmpty() && rows(each).equals(rows))
            .filter(each -> isLookup(each.read()) == isLookup(first.get().read()))
            .toList();
    return FormEdits.of(isLookup(first.get().read()) ? lookup(shared) : figures(shared));
  }

  private Asked asked(Value.ScalarQuery place, SelectItem.Output item) {
    Optional<QueryBlock> inner = reading.block(place.query());
    String stays = inner.map(each -> refusal(place.query(), each)).orElse("it has several parts");
    return new Asked(
        place,
        item,
        inner.orElse(null),
        stays.isEmpty() ? "" : "a scalar subquery in SELECT stays: " + stays);
  }

  /** Why it cannot be a join; empty if it can. */
  private String refusal(Query query, QueryBlock inner) {
    boolean plain =
        Absence.isWhole(inner)
            && query.orderBy().isEmpty()
            && inner.select().groupBy().isEmpty()
            && inner.select().having() == null
            && inner.outputs().size() == 1
            && !NameForms.hasStar(inner);
    if (!plain) {
      return "it has groups, an order or a limit of its own";
    }
    if (block.select().from() == null || block.isGrouped()) {
      return block.isGrouped()
          ? "the rows outside of it are grouped"
          : "there is no FROM outside of it";
    }
    Ties ties = Ties.of(reading, inner);
    if (!ties.areAll() || ties.equalities().isEmpty()) {
      return "not only equalities connect it with the row outside";
    }
    if (!inner.isGrouped()) {
      return inner.determinedBy(Set.of()).containsAll(inner.uses())
          ? ""
          : "nothing in the schema says that it gives one row at most";
    }
    Expression value = inner.outputs().get(0).value();
    boolean beside =
        value
            .preorder()
            .anyMatch(
                node ->
                    node instanceof ColumnName
                        && Aggregates.in(value)
                            .noneMatch(call -> call.span().contains(node.span())));
    if (beside) {
      return "it shows a column beside an aggregate";
    }
    return Aggregates.in(value)
        .filter(call -> !call.key().equals("count") && !NULL_OF_NOTHING.contains(call.key()))
        .map(call -> "it is not known what " + call.key() + " gives of no row")
        .findFirst()
        .orElse("");
  }

  /** What must be done before. */
  private List<Edit> before(QueryBlock inner) {
    JoinedSubquery joined = new JoinedSubquery(reading, block, inner);
    // Figures come in a table of their own, whose names are free.
    return isLookup(inner) ? joined.before() : joined.starsAndCommas();
  }

  /** Which rows a subquery looks at, whatever it makes of them. */
  private String rows(Asked asked) {
    QueryBlock inner = asked.read();
    String from = reading.text(Objects.requireNonNull(inner.select().from()));
    String where = reading.text(Objects.requireNonNull(inner.select().where()));
    return (from + "\n" + where).replaceAll("\\s+", " ");
  }

  // ---- a column of one partner ----

  /** Whether a row that is missing gives just what the subquery gives then: NULL. */
  private static boolean isLookup(QueryBlock inner) {
    Optional<UseColumn> column = inner.column(inner.outputs().get(0).value());
    return column.isPresent() && inner.isOwn(column.get()) && !inner.isGrouped();
  }

  private List<Edit> lookup(List<Asked> shared) {
    QueryBlock inner = shared.get(0).read();
    JoinedSubquery joined = new JoinedSubquery(reading, block, inner);
    String on = reading.text(Objects.requireNonNull(inner.select().where()));
    List<Edit> edits = new ArrayList<>();
    edits.add(joined.add("LEFT JOIN", joined.tables(), on));
    for (Asked each : shared) {
      QueryBlock own = each.read();
      UseColumn column = own.column(own.outputs().get(0).value()).orElseThrow();
      // The twins of the first go by its names.
      int at = own.uses().indexOf(column.use());
      String name = inner.uses().get(at).written();
      edits.add(shown(each, name + "." + block.dialect().write(column.name())));
    }
    return edits;
  }

  // ---- figures of several, or a value that is no column ----

  private List<Edit> figures(List<Asked> shared) {
    QueryBlock inner = shared.get(0).read();
    String alias = reading.aliases().like(Words.plural(Reading.tableName(inner.uses().get(0))));
    SubqueryTable table =
        new SubqueryTable(reading, inner, Ties.of(reading, inner).equalities(), alias);
    List<Edit> edits = new ArrayList<>();
    for (Asked each : shared) {
      edits.add(shown(each, value(table, each)));
    }
    List<Edit> apart = NameForms.apart(block, table.labels());
    if (!apart.isEmpty()) {
      return apart;
    }
    String and = " " + reading.edits(block).keyword("AND") + " ";
    String rows = inner.isGrouped() ? table.grouped() : table.plain();
    edits.add(
        new JoinedSubquery(reading, block, inner).add("LEFT JOIN", rows, table.condition(and)));
    return edits;
  }

  /** What the subquery gives, from the columns of the table; a count of nothing is 0. */
  private String value(SubqueryTable table, Asked asked) {
    QueryBlock inner = asked.read();
    Expression value = inner.outputs().get(0).value();
    String label =
        asked.item().label() == null ? "figure" : block.dialect().stored(asked.item().label());
    if (!inner.isGrouped()) {
      return table.show(reading.text(value), label);
    }
    List<FunctionCall> calls = Aggregates.in(value).toList();
    List<Edit> edits = new ArrayList<>();
    for (FunctionCall call : calls) {
      String name = NAMES.getOrDefault(call.key(), calls.size() > 1 ? "figure" : label);
      String column = table.show(reading.text(call), name);
      boolean counted = call.key().equals("count");
      edits.add(new Edit(call.span(), counted ? "COALESCE(" + column + ", 0)" : column));
    }
    return reading.edited(value, edits);
  }

  // ---- both ----

  /** The heading stays. */
  private Edit shown(Asked asked, String value) {
    Span place = asked.place().span();
    boolean whole = asked.item().value().equals(asked.place());
    String label = whole && asked.item().label() == null ? heading(asked) : "";
    return new Edit(place, whole ? value + label : "(" + value + ")");
  }

  private String heading(Asked asked) {
    return block.outputs().stream()
        .filter(each -> each.value().equals(asked.place()) && !each.name().isBlank())
        .findFirst()
        .map(each -> reading.edits(block).beforeLabel() + block.dialect().write(each.name()))
        .orElse("");
  }
}
