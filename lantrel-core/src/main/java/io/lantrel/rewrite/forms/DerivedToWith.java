package io.lantrel.rewrite.forms;

import io.lantrel.edit.FreeAliases;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.LexedText;
import io.lantrel.sql.tree.Alias;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Queries in FROM, and queries of conditions and values that stand alone, as members of WITH. What
 * depends on a row outside, or on the rows so far of a recursion, stays where it is.
 */
final class DerivedToWith {

  private final Reading reading;
  private final QueryBlock block;

  DerivedToWith(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
  }

  FormEdits change() {
    for (TableUse use : block.uses()) {
      // Without a name, nothing but * shows its columns; VALUES may stand without parentheses.
      if (use.item() instanceof FromItem.DerivedTable derived
          && derived.alias() != null
          && reading.text(derived).startsWith("(")
          && standsAlone(derived.query())) {
        return FormEdits.of(fromFrom(derived, derived.alias()));
      }
    }
    return Aggregates.withoutQueries(block.select())
        .flatMap(node -> listed(node).stream())
        .filter(query -> standsAlone(query) && !isNameAlone(query))
        .map(this::fromCondition)
        .filter(edits -> !edits.isEmpty())
        .findFirst()
        .map(FormEdits::of)
        .orElse(FormEdits.NONE);
  }

  private boolean standsAlone(Query query) {
    return reading.namesOnlyWithin(query, query.span())
        && reading.resolution().blocks().stream()
            .filter(each -> query.span().contains(each.query().span()))
            .flatMap(each -> each.uses().stream())
            .noneMatch(TableUse::isOwnRecursion);
  }

  // ---- a query in FROM ----

  private List<Edit> fromFrom(FromItem.DerivedTable derived, Alias alias) {
    String name = name(alias);
    String written = reading.text(alias.name());
    List<String> told = alias.columns().stream().map(reading::text).toList();
    List<String> columns =
        reading.outputs(derived.query()).stream()
            .map(each -> reading.dialect().write(each.name()))
            .toList();
    boolean all = columns.stream().noneMatch(String::isBlank);
    return List.of(
        member(derived.span(), name, told, all ? columns : List.of(), content(derived, alias)),
        new Edit(derived.span(), name.equals(written) ? name : name + " " + written));
  }

  /** What stands between the parentheses, with comments. */
  private String content(FromItem.DerivedTable derived, Alias alias) {
    int open = reading.opening(derived.span().start(), derived.query());
    Span behind = Span.between(derived.query().span(), alias.span());
    return new LexedText(reading.source(), behind, reading.dialect())
        .first(")")
        .map(close -> reading.source().text().substring(open + 1, close.start()))
        .orElseGet(() -> reading.text(derived.query()));
  }

  /** The alias itself, unless something else goes by it too. */
  private String name(Alias alias) {
    String key = reading.dialect().key(alias.name());
    boolean others =
        reading.resolution().blocks().stream()
                .flatMap(each -> each.uses().stream())
                .filter(use -> !use.nameSpan().equals(alias.name().span()))
                .anyMatch(use -> reading.dialect().key(use.name()).equals(key))
            || reading.catalog().table(reading.dialect().stored(alias.name())).isPresent()
            || reading
                .query()
                .preorder()
                .anyMatch(
                    node ->
                        node instanceof CommonTable table
                            && reading.dialect().key(table.name()).equals(key));
    FreeAliases free = reading.aliases();
    return others ? free.like(alias.name().text()) : reading.text(alias.name());
  }

  /**
   * @param told the columns that must be named behind it
   * @param columns all its columns, if they are known
   */
  private Edit member(
      Span place, String name, List<String> told, List<String> columns, String content) {
    WithPlace to = WithPlace.of(reading.query(), place);
    // Beside a recursive member some products want the columns of each.
    List<String> names = told.isEmpty() && to.holder().recursive() ? columns : told;
    String list = names.isEmpty() ? "" : " (" + String.join(", ", names) + ")";
    String body = content.contains("\n") ? content : content.strip();
    return to.add(name + list + " " + word("AS") + " (" + body + ")", word("WITH"));
  }

  private String word(String keyword) {
    return reading.edits(block).keyword(keyword);
  }

  // ---- a query in a condition, or for a value ----

  private static Optional<Query> listed(Node node) {
    if (node instanceof Condition.InQuery in) {
      return Optional.of(in.query());
    }
    return node instanceof Value.ScalarQuery scalar
        ? Optional.of(scalar.query())
        : Optional.empty();
  }

  /** Whether it shows a member of WITH, and does no more. */
  private boolean isNameAlone(Query query) {
    return query.body() instanceof QueryBody.Select select
        && select.where() == null
        && select.groupBy().isEmpty()
        && query.orderBy().isEmpty()
        && query.limit() == null
        && (select.from() == null
            || (select.from() instanceof FromItem.TableName
                && !Aggregates.withoutQueries(select).anyMatch(Value.ScalarQuery.class::isInstance)
                && reading.block(query).stream().noneMatch(QueryBlock::isGrouped)));
  }

  /** Columns without a name by which they could be shown get one. */
  private List<Edit> fromCondition(Query query) {
    Optional<QueryBlock> inner = reading.block(query).filter(each -> query.with().isEmpty());
    List<String> shown = new ArrayList<>();
    List<String> given = new ArrayList<>();
    for (OutputColumn each : reading.outputs(query)) {
      boolean named = each.name().matches("[\\p{L}_][\\p{L}\\p{N}_ ]*");
      String number = each.position() == 0 ? "" : String.valueOf(each.position() + 1);
      given.add(named ? "" : "figure" + number);
      shown.add(named ? reading.dialect().write(each.name()) : "figure" + number);
    }
    Optional<List<Edit>> labels =
        inner.flatMap(
            each ->
                given.stream().allMatch(String::isEmpty)
                    ? Optional.of(List.of())
                    : Labels.given(each, given, reading.edits(each)));
    if (labels.isEmpty() || shown.isEmpty()) {
      return List.of();
    }
    String name = reading.aliases().like(wanted(inner.orElseThrow()));
    String content = reading.edited(query, labels.get());
    String now = word("SELECT") + " " + String.join(", ", shown) + " " + word("FROM") + " " + name;
    return List.of(
        member(query.span(), name, List.of(), shown, content), new Edit(query.span(), now));
  }

  private static String wanted(QueryBlock inner) {
    return inner.uses().isEmpty() ? "part" : Words.plural(Reading.tableName(inner.uses().get(0)));
  }
}
