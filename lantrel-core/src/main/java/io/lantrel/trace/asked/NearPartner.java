package io.lantrel.trace.asked;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.engine.Database;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.NamedRow;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.ColumnReplacer;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Arithmetic;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Value.LiteralKind;
import io.lantrel.trace.Answer.TracedValue;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * The partner that a row nearly has at a join: the one that meets most of the conditions, one
 * equality at least, if there are any, be it but for blanks at an end or capitals. Of several, it
 * is the one between whose bounds a value of the row would lie if it were a little more or less.
 *
 * <p>The values of the row stand in the place of its columns, so that one statement tells it.
 */
final class NearPartner {

  private final QueryBlock block;
  private final List<Conjunct> conditions;
  private final List<TableUse> own;
  private final List<TableUse> others;
  private final FromItem side;
  private final SubqueryRows.Outside row;
  private final List<Bound> bounds;
  private final List<UseColumn> shown = new ArrayList<>();
  private boolean constant = true;

  /**
   * @param left whether the row stands on the left of the step
   * @param conditions those of the step that are to be met
   * @param row what stands for its columns
   */
  NearPartner(
      QueryBlock block,
      JoinStep step,
      boolean left,
      List<Conjunct> conditions,
      SubqueryRows.Outside row) {
    this.block = block;
    this.own = left ? step.left() : step.right();
    this.others = left ? step.right() : step.left();
    this.side = left ? step.join().right() : step.join().left();
    this.row = row;
    this.conditions = conditions;
    this.bounds = conditions.stream().flatMap(each -> Bound.in(each, block, others)).toList();
    Stream.concat(
            named().stream().flatMap(each -> identifying(each).stream()),
            Written.columns(conditions, block, others).stream())
        .distinct()
        .forEach(shown::add);
  }

  /** Without the column that marks the rows which are followed. */
  private static List<UseColumn> identifying(TableUse use) {
    return RowNames.identifyingColumns(use).stream()
        .filter(each -> !MarkedText.isName(each.name()))
        .toList();
  }

  /** Whose row the partner is called by: the one that an equality is about, or else a bound. */
  private Optional<TableUse> named() {
    return Stream.concat(
            conditions.stream()
                .flatMap(each -> each.equality().stream())
                .map(each -> each.other(mine(each)).use()),
            bounds.stream().map(each -> each.column().use()))
        .findFirst();
  }

  /** In a sentence; empty if there is none. */
  Optional<String> words(Database database) {
    List<Conjunct> equalities =
        conditions.stream().filter(each -> each.equality().isPresent()).toList();
    boolean helpful =
        equalities.isEmpty()
            ? !bounds.isEmpty() && bounds.stream().noneMatch(each -> isUnknown(each.condition()))
            : conditions.size() > 1 || equalities.stream().anyMatch(this::isOfTexts);
    boolean alone =
        !block.isCorrelated()
            && block.hasClearCommonTables()
            && others.stream().noneMatch(TableUse::isDependent)
            && !multiplies(side);
    if (!helpful || !alone) {
      return Optional.empty();
    }
    Query query = query(equalities);
    if (!constant) {
      return Optional.empty();
    }
    try {
      Rows rows = database.ask(query);
      return rows.size() == 0 ? Optional.empty() : sentence(rows.rows().get(0));
    } catch (DatabaseException refused) {
      // A constant is not of every type that its column can be compared with.
      if (refused.isFatal()) {
        throw refused;
      }
      return Optional.of("What is near it was not got: " + refused.getMessage());
    }
  }

  /** Whether tables stand side by side there that only WHERE connects. */
  private static boolean multiplies(FromItem side) {
    return side.preorder()
        .anyMatch(
            node ->
                node instanceof FromItem.Join join
                    && (join.kind() == JoinKind.COMMA || join.kind() == JoinKind.CROSS));
  }

  /** What it shows, then for each condition 1 if it is met, 0 if not, NULL if that is unknown. */
  private Query query(List<Conjunct> equalities) {
    List<SelectItem> items = new ArrayList<>();
    shown.forEach(each -> items.add(Sql.as(Sql.column(each), "c" + items.size())));
    List<Expression> near = new ArrayList<>();
    equalities.forEach(each -> near.add(isOfTexts(each) ? isAlike(each) : condition(each)));
    Expression missed = Sql.number(0);
    for (Conjunct each : conditions) {
      Expression met = condition(each);
      Expression state =
          Sql.choose(met, Sql.number(1), Sql.choose(Sql.not(met), Sql.number(0), Sql.nothing()));
      items.add(Sql.as(state, "c" + items.size()));
      // What is unknown is nearer than what is false: often NULL stands for an open end.
      Expression apart =
          Sql.choose(
              isOfTexts(each) ? isAlike(each) : Sql.not(met),
              Sql.number(isOfTexts(each) ? 1 : 2),
              Sql.number(isOfTexts(each) ? 2 : 1));
      missed =
          new Arithmetic(
              Span.NOWHERE, ArithmeticOperator.PLUS, missed, Sql.choose(met, Sql.number(0), apart));
    }
    List<OrderItem> order = new ArrayList<>();
    order.add(OrderItem.by(missed));
    bounds.forEach(each -> order.add(each.nearest(withValues(each.condition()))));
    shown.stream()
        .filter(each -> !each.type().isUnordered())
        .forEach(each -> order.add(OrderItem.by(Sql.column(each))));
    return new Query(
        Span.NOWHERE,
        block.hasRecursiveTables(),
        block.commonTables(),
        Sql.select(items, side, near.isEmpty() ? null : Sql.any(near)),
        order,
        Limit.of(1));
  }

  /** A condition with the values of the row. */
  private Expression condition(Conjunct each) {
    Conjunct.Equated equated = each.equality().orElse(null);
    if (equated != null) {
      UseColumn mine = mine(equated);
      return Sql.equal(Sql.column(equated.other(mine)), value(mine));
    }
    return withValues(each.condition());
  }

  private Expression withValues(Expression condition) {
    return new ColumnReplacer(
            name ->
                block
                    .column(name)
                    .filter(column -> own.contains(column.use()))
                    .map(this::value)
                    .orElse(name))
        .apply(condition);
  }

  /** Whether a value of the row is NULL there: then no partner is nearer than another. */
  private boolean isUnknown(Expression condition) {
    return block.columnsIn(condition).stream()
        .filter(column -> own.contains(column.use()))
        .anyMatch(column -> row.value(column).filter(Literal::isNull).isPresent());
  }

  private Expression value(UseColumn column) {
    Optional<Expression> value = row.value(column);
    constant &= value.isPresent();
    return value.orElseGet(Sql::nothing);
  }

  private UseColumn mine(Conjunct.Equated equated) {
    return own.contains(equated.left().use()) ? equated.left() : equated.right();
  }

  private boolean isOfTexts(Conjunct condition) {
    return condition
        .equality()
        .filter(each -> each.left().type().family() == TypeFamily.TEXT)
        .filter(each -> each.right().type().family() == TypeFamily.TEXT)
        .isPresent();
  }

  private Expression isAlike(Conjunct condition) {
    Conjunct.Equated equated = condition.equality().orElseThrow();
    UseColumn mine = mine(equated);
    return Sql.equal(Sql.plain(Sql.column(equated.other(mine))), Sql.plain(value(mine)));
  }

  // ---- in words ----

  private Optional<String> sentence(List<@Nullable Object> found) {
    List<String> reasons = new ArrayList<>();
    for (int i = 0; i < conditions.size(); i++) {
      Object met = found.get(shown.size() + i);
      if (!"1".equals(met == null ? "" : ValueText.of(met))) {
        reasons.add(reason(conditions.get(i), met == null, found));
      }
    }
    return reasons.isEmpty()
        ? Optional.empty()
        : Optional.of("Near it is " + name(found) + ": " + String.join(", and ", reasons) + ".");
  }

  private String reason(Conjunct condition, boolean unknown, List<@Nullable Object> found) {
    if (isOfTexts(condition) && !unknown) {
      Conjunct.Equated equated = condition.equality().orElseThrow();
      UseColumn mine = mine(equated);
      UseColumn theirs = equated.other(mine);
      String wanted = row.value(mine).flatMap(NearPartner::text).orElse("");
      String text = String.valueOf(value(theirs, found));
      Optional<String> difference = difference(text, wanted);
      if (difference.isPresent()) {
        return theirs.words()
            + " is '"
            + text
            + "', which differs from '"
            + wanted
            + "' only in "
            + difference.get();
      }
    }
    List<TracedValue> values =
        Written.columns(condition, block)
            .flatMap(each -> told(each, condition, unknown, found).stream())
            .toList();
    return (values.isEmpty() ? "" : Followed.words(values) + ", so ")
        + Written.condition(condition, block.dialect())
        + (unknown ? " is unknown" : " is not true");
  }

  /**
   * A value that tells why: one of the partner, or of the row where the condition is about that
   * alone; of what is unknown, what is NULL on either side.
   */
  private Optional<TracedValue> told(
      UseColumn column, Conjunct condition, boolean unknown, List<@Nullable Object> found) {
    boolean theirs = shown.contains(column);
    @Nullable String value =
        theirs ? value(column, found) : row.value(column).flatMap(NearPartner::text).orElse(null);
    boolean itself = own.containsAll(condition.uses());
    boolean tells = unknown ? value == null : theirs || itself;
    return tells ? Optional.of(new TracedValue(column.words(), value)) : Optional.empty();
  }

  private static Optional<String> difference(String text, String wanted) {
    if (text.strip().equals(wanted.strip())) {
      return Optional.of("blanks");
    }
    if (text.equalsIgnoreCase(wanted)) {
      return Optional.of("capitals");
    }
    return text.strip().equalsIgnoreCase(wanted.strip())
        ? Optional.of("blanks and capitals")
        : Optional.empty();
  }

  /** What a constant stands for; empty for NULL. */
  private static Optional<String> text(Expression constant) {
    if (!(constant instanceof Literal literal) || literal.kind() == LiteralKind.NULL) {
      return Optional.empty();
    }
    String text = literal.text();
    int quote = text.indexOf('\'');
    return Optional.of(
        quote < 0 ? text : text.substring(quote + 1, text.length() - 1).replace("''", "'"));
  }

  /** The row by name. */
  private String name(List<@Nullable Object> found) {
    TableUse use = named().orElseThrow();
    List<UseColumn> columns = identifying(use);
    List<@Nullable String> values = new ArrayList<>();
    columns.forEach(each -> values.add(value(each, found)));
    return new NamedRow(use.tableName(), columns.stream().map(UseColumn::name).toList(), values)
        .words();
  }

  private @Nullable String value(UseColumn column, List<@Nullable Object> found) {
    return ValueText.of(found.get(shown.indexOf(column)), column.type());
  }
}
