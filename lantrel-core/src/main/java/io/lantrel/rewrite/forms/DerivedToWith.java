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
import io.lantrel.sql.tree.SelectItem;
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
    boolean own =
        reading.columns(query).stream()
            .allMatch(column -> query.span().contains(column.use().item().span()));
    return own
        && reading.resolution().blocks().stream()
            .filter(each -> query.span().contains(each.query().span()))
            .flatMap(each -> each.uses().stream())
            .noneMatch(TableUse::isOwnRecursion);
  }

  // ---- a query in FROM ----

  private List<Edit> fromFrom(FromItem.DerivedTable derived, Alias alias) {
    String name = name(alias);
    String columns =
        alias.columns().isEmpty()
            ? ""
            : " (" + String.join(", ", alias.columns().stream().map(reading::text).toList()) + ")";
    String written = reading.text(alias.name());
    return List.of(
        member(derived.span(), name, columns, derived.query(), content(derived, alias)),
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

  private Edit member(Span place, String name, String columns, Query query, String content) {
    WithPlace to = WithPlace.of(reading.query(), place);
    // Beside a recursive member some products want the columns of each.
    String all = columns.isEmpty() && to.holder().recursive() ? columns(query) : columns;
    String body = content.contains("\n") ? content : content.strip();
    return to.add(name + all + " " + word("AS") + " (" + body + ")", word("WITH"));
  }

  private String columns(Query query) {
    List<String> names =
        reading.outputs(query).stream().map(each -> reading.dialect().write(each.name())).toList();
    return names.stream().anyMatch(String::isBlank) || names.isEmpty()
        ? ""
        : " (" + String.join(", ", names) + ")";
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

  /** Only where its columns have names by which they can be shown. */
  private List<Edit> fromCondition(Query query) {
    List<OutputColumn> outputs = reading.outputs(query);
    boolean named =
        !outputs.isEmpty()
            && outputs.stream().allMatch(each -> each.name().matches("[\\p{L}_][\\p{L}\\p{N}_ ]*"));
    if (!query.with().isEmpty() || reading.block(query).isEmpty()) {
      return List.of();
    }
    List<Edit> labelled = named ? List.of() : labels(query);
    String wanted = reading.block(query).orElseThrow().uses().isEmpty() ? "part" : wanted(query);
    String name = reading.aliases().like(wanted);
    List<String> shown = new ArrayList<>();
    for (int i = 0; i < outputs.size(); i++) {
      String label = named ? outputs.get(i).name() : "figure" + (i == 0 ? "" : i + 1);
      shown.add(reading.dialect().write(label));
    }
    if (outputs.isEmpty() || (!named && labelled.isEmpty())) {
      return List.of();
    }
    String content = reading.edited(query, labelled);
    String now = word("SELECT") + " " + String.join(", ", shown) + " " + word("FROM") + " " + name;
    String columns =
        WithPlace.of(reading.query(), query.span()).holder().recursive()
            ? " (" + String.join(", ", shown) + ")"
            : "";
    return List.of(
        member(query.span(), name, columns, query, content), new Edit(query.span(), now));
  }

  private String wanted(Query query) {
    return Words.plural(Reading.tableName(reading.block(query).orElseThrow().uses().get(0)));
  }

  private List<Edit> labels(Query query) {
    QueryBlock inner = reading.block(query).orElseThrow();
    List<Edit> edits = new ArrayList<>();
    for (int i = 0; i < inner.select().items().size(); i++) {
      if (!(inner.select().items().get(i) instanceof SelectItem.Output output)
          || output.label() != null) {
        return List.of();
      }
      String label = "figure" + (i == 0 ? "" : i + 1);
      edits.add(Edit.insert(output.span().end(), reading.edits(inner).beforeLabel() + label));
    }
    return edits;
  }
}
