package io.lantrel.resolve;

import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value;
import java.util.Set;
import java.util.stream.Stream;

/** The type of a value, as far as it is the same in every product; unknown if it is not. */
final class Types {

  private static final ColumnType COUNT = new ColumnType("BIGINT", TypeFamily.INTEGER);
  private static final ColumnType TRUTH = new ColumnType("BOOLEAN", TypeFamily.TRUTH);
  private static final ColumnType TEXT = new ColumnType("VARCHAR", TypeFamily.TEXT);

  private static final Set<String> SAME_AS_FIRST =
      Set.of(
          "min",
          "max",
          "any_value",
          "coalesce",
          "greatest",
          "least",
          "nullif",
          "first_value",
          "last_value",
          "lag",
          "lead",
          "nth_value",
          "abs");
  private static final Set<String> COUNTS =
      Set.of("count", "row_number", "rank", "dense_rank", "ntile");
  private static final Set<String> TEXTS =
      Set.of(
          "lower",
          "upper",
          "trim",
          "ltrim",
          "rtrim",
          "substring",
          "substr",
          "replace",
          "concat",
          "string_agg",
          "group_concat",
          "listagg");

  private Types() {}

  static ColumnType of(Expression value, QueryBlock block) {
    if (value instanceof Value.ColumnName) {
      return block.column(value).map(UseColumn::type).orElse(ColumnType.UNKNOWN);
    }
    if (value instanceof Condition) {
      return TRUTH;
    }
    if (value instanceof Value.Cast cast) {
      return ColumnType.of(cast.type().text());
    }
    if (value instanceof Value.Literal literal) {
      return of(literal);
    }
    if (value instanceof Value.Signed signed) {
      return of(signed.value(), block);
    }
    if (value instanceof Value.Arithmetic arithmetic) {
      return of(arithmetic, block);
    }
    if (value instanceof Call.FunctionCall call) {
      return of(call, block);
    }
    if (value instanceof Value.Case choice) {
      Stream<Expression> branches =
          Stream.concat(
              choice.whens().stream().map(Value.When::then), Stream.ofNullable(choice.otherwise()));
      return branches
          .map(each -> of(each, block))
          .filter(type -> type.family() != TypeFamily.OTHER)
          .findFirst()
          .orElse(ColumnType.UNKNOWN);
    }
    return ColumnType.UNKNOWN;
  }

  private static ColumnType of(Value.Literal literal) {
    return switch (literal.kind()) {
      case NUMBER ->
          literal.text().matches("[0-9]+")
              ? new ColumnType("INTEGER", TypeFamily.INTEGER)
              : new ColumnType("DECIMAL", TypeFamily.DECIMAL);
      case STRING -> TEXT;
      case TRUTH -> TRUTH;
      case DATE -> new ColumnType("DATE", TypeFamily.DATE);
      case TIME -> new ColumnType("TIME", TypeFamily.TIME);
      case TIMESTAMP -> new ColumnType("TIMESTAMP", TypeFamily.TIMESTAMP);
      case NULL, INTERVAL, OTHER -> ColumnType.UNKNOWN;
    };
  }

  /** Division differs between products; of the others, two types of one family keep it. */
  private static ColumnType of(Value.Arithmetic arithmetic, QueryBlock block) {
    return switch (arithmetic.operator()) {
      case CONCAT -> TEXT;
      case PLUS, MINUS, TIMES -> {
        ColumnType left = of(arithmetic.left(), block);
        ColumnType right = of(arithmetic.right(), block);
        boolean number =
            Set.of(TypeFamily.INTEGER, TypeFamily.DECIMAL, TypeFamily.FLOAT)
                .contains(left.family());
        yield number && left.family() == right.family() ? left : ColumnType.UNKNOWN;
      }
      case DIVIDED, MODULO, WHOLE, DIV, MOD, POWER -> ColumnType.UNKNOWN;
    };
  }

  private static ColumnType of(Call.FunctionCall call, QueryBlock block) {
    if (COUNTS.contains(call.key())) {
      return COUNT;
    }
    if (TEXTS.contains(call.key())) {
      return TEXT;
    }
    return SAME_AS_FIRST.contains(call.key()) && !call.arguments().isEmpty()
        ? of(call.arguments().get(0), block)
        : ColumnType.UNKNOWN;
  }
}
