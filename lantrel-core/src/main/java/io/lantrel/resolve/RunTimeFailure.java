package io.lantrel.resolve;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Value;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Whether a query that was planned can still fail while it runs, as conversions, arithmetic and
 * subqueries with several rows do (ISO/IEC 9075-2, 24.1, class 22 and the like). What is not known
 * to be harmless may fail.
 */
public final class RunTimeFailure {

  private static final Set<TypeFamily> NUMBERS =
      EnumSet.of(TypeFamily.INTEGER, TypeFamily.DECIMAL, TypeFamily.FLOAT);

  private static final Set<String> OF_ANY_VALUE =
      Set.of("count", "min", "max", "row_number", "rank", "dense_rank", "grouping");
  private static final Set<String> OF_NUMBERS = Set.of("sum", "avg");
  private static final Set<String> OF_TEXTS = Set.of("lower", "upper", "trim");

  private final QueryBlock block;

  private RunTimeFailure(QueryBlock block) {
    this.block = block;
  }

  /** Whether it is possible. */
  public static boolean isPossible(Resolution resolution) {
    boolean putTogether =
        resolution
            .result()
            .query()
            .preorder()
            .anyMatch(
                node -> node instanceof QueryBody.SetOperation || node instanceof QueryBody.Values);
    return putTogether
        || resolution.result().block().isEmpty()
        || resolution.blocks().stream().anyMatch(block -> new RunTimeFailure(block).mayFail());
  }

  private boolean mayFail() {
    return block.hasRecursiveTables()
        || block.steps().stream()
            .flatMap(step -> step.conjuncts().stream())
            .flatMap(conjunct -> conjunct.equality().stream())
            .anyMatch(each -> !areAlike(Stream.of(each.left(), each.right()).map(this::family)))
        || Aggregates.withoutQueries(block.select()).anyMatch(this::mayFail);
  }

  private boolean mayFail(Node node) {
    if (node instanceof Condition condition) {
      return mayFail(condition);
    }
    if (node instanceof Call call) {
      return mayFail(call);
    }
    if (node instanceof Value value) {
      return mayFail(value);
    }
    if (node instanceof FromItem.TableName name) {
      return block.use(name).filter(RunTimeFailure::isSeenThrough).isEmpty();
    }
    return node instanceof FromItem.TableFunction
        || (node instanceof SelectItem.AllColumns && !block.hasAllOutputs());
  }

  /** A table, or a query whose blocks are among those looked at; those of a view are not. */
  private static boolean isSeenThrough(TableUse use) {
    return use.table().isPresent() || use.query().isPresent();
  }

  private boolean mayFail(Value value) {
    if (value instanceof Value.Case choice) {
      return !areAlike(
          Stream.concat(
                  choice.whens().stream().map(Value.When::then),
                  Stream.ofNullable(choice.otherwise()))
              .toList());
    }
    boolean harmless =
        value instanceof Value.ColumnName
            || value instanceof Value.Literal
            || (value instanceof Value.Signed signed && signed.value() instanceof Value.Literal);
    return !harmless;
  }

  private boolean mayFail(Condition condition) {
    if (condition instanceof Condition.Comparison comparison) {
      return !areAlike(List.of(comparison.left(), comparison.right()));
    }
    if (condition instanceof Condition.IsDistinct distinct) {
      return !areAlike(List.of(distinct.left(), distinct.right()));
    }
    if (condition instanceof Condition.Between between) {
      return !areAlike(List.of(between.value(), between.low(), between.high()));
    }
    if (condition instanceof Condition.InList in) {
      return in.list().stream().anyMatch(each -> !areAlike(List.of(in.value(), each)));
    }
    boolean harmless =
        condition instanceof Condition.And
            || condition instanceof Condition.Or
            || condition instanceof Condition.Not
            || condition instanceof Condition.IsNull
            || condition instanceof Condition.Exists;
    return !harmless && !(condition instanceof Condition.IsTruth);
  }

  private boolean mayFail(Call call) {
    if (!(call instanceof Call.FunctionCall function)) {
      return !(call instanceof Call.Grouping);
    }
    String name = function.key();
    if (OF_ANY_VALUE.contains(name)) {
      return false;
    }
    if (name.equals("coalesce")) {
      return !areAlike(function.arguments());
    }
    Set<TypeFamily> wanted =
        OF_NUMBERS.contains(name)
            ? NUMBERS
            : OF_TEXTS.contains(name)
                ? EnumSet.of(TypeFamily.TEXT)
                : EnumSet.noneOf(TypeFamily.class);
    return !function.arguments().stream().map(this::family).allMatch(wanted::contains);
  }

  private boolean areAlike(List<Expression> values) {
    return areAlike(values.stream().map(this::family));
  }

  /** Whether values can be compared as they are, without one being converted. */
  private static boolean areAlike(Stream<TypeFamily> families) {
    List<TypeFamily> all = families.toList();
    return !all.contains(TypeFamily.OTHER)
        && (NUMBERS.containsAll(all) || all.stream().distinct().count() == 1);
  }

  private TypeFamily family(UseColumn column) {
    return column.type().family();
  }

  private TypeFamily family(Expression value) {
    return Types.of(value, block).family();
  }
}
