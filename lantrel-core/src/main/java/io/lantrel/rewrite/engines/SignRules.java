package io.lantrel.rewrite.engines;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** Signs that another product writes otherwise, or that mean another thing there. */
record SignRules(Rendering rendering) implements Rendering.Rules {

  /** Where a whole number divided by another gives a fraction. */
  private static final Set<Dialect> FRACTIONS = EnumSet.of(Dialect.DUCKDB, Dialect.MARIADB);

  /** Where LIKE takes no regard to case. */
  private static final Set<Dialect> CASELESS = EnumSet.of(Dialect.MARIADB, Dialect.SQLITE);

  @Override
  public Optional<String> write(Node node) {
    boolean noParts = rendering.to() == Dialect.MARIADB || rendering.to() == Dialect.SQLITE;
    if (node instanceof Value.Subscript && noParts) {
      throw new RewriteException("parts of a value in brackets have no counterpart there");
    }
    if (node instanceof Value.Arithmetic arithmetic) {
      return arithmetic(arithmetic);
    }
    if (node instanceof Condition.Or || node instanceof Condition.And) {
      return words(node);
    }
    if (node instanceof Condition.Like like) {
      return like(like);
    }
    if (node instanceof Condition.IsDistinct distinct) {
      return distinct(distinct);
    }
    return node instanceof Condition.Comparison comparison
        ? comparison(comparison)
        : Optional.empty();
  }

  private Optional<String> arithmetic(Value.Arithmetic a) {
    Dialect to = rendering.to();
    return switch (a.operator()) {
      case CONCAT ->
          to == Dialect.MARIADB
              ? Optional.of("CONCAT(" + String.join(", ", joined(a)) + ")")
              : Optional.empty();
      case MODULO, MOD ->
          to == Dialect.HSQLDB
                  || (a.operator() == Value.ArithmeticOperator.MOD && to != Dialect.MARIADB)
              ? Optional.of("MOD(" + left(a) + ", " + right(a) + ")")
              : Optional.empty();
      case POWER ->
          to == Dialect.DUCKDB || to == Dialect.POSTGRESQL
              ? Optional.empty()
              : Optional.of("POWER(" + left(a) + ", " + right(a) + ")");
      case WHOLE, DIV -> Optional.of(left(a) + " " + wholeSign() + " " + right(a));
      case DIVIDED -> divided(a);
      case TIMES, PLUS, MINUS -> Optional.empty();
    };
  }

  private List<String> joined(Expression value) {
    if (value instanceof Value.Arithmetic a && a.operator() == Value.ArithmeticOperator.CONCAT) {
      List<String> all = new ArrayList<>(joined(a.left()));
      all.addAll(joined(a.right()));
      return all;
    }
    return List.of(rendering.write(value));
  }

  private String left(Value.Arithmetic a) {
    return rendering.write(a.left());
  }

  private String right(Value.Arithmetic a) {
    return rendering.write(a.right());
  }

  private String wholeSign() {
    return switch (rendering.to()) {
      case DUCKDB -> "//";
      case MARIADB -> "DIV";
      case POSTGRESQL, SQLITE, H2, HSQLDB, TRINO, STANDARD -> "/";
    };
  }

  /** Between whole numbers {@code /} gives a fraction here and a whole number there. */
  private Optional<String> divided(Value.Arithmetic a) {
    boolean whole = isWhole(a.left()) && isWhole(a.right());
    boolean before = FRACTIONS.contains(rendering.from());
    boolean now = FRACTIONS.contains(rendering.to());
    if (!whole || before == now) {
      return Optional.empty();
    }
    if (now) {
      return Optional.of(left(a) + " " + wholeSign() + " " + right(a));
    }
    String type = rendering.to() == Dialect.SQLITE ? "REAL" : "DOUBLE PRECISION";
    return Optional.of("CAST(" + left(a) + " AS " + type + ") / " + right(a));
  }

  private boolean isWhole(Expression value) {
    boolean figure =
        value instanceof Call.FunctionCall call
            && Set.of("sum", "min", "max", "abs").contains(call.key())
            && call.arguments().size() == 1
            && isWhole(call.arguments().get(0));
    return figure || rendering.block(value).type(value).family() == TypeFamily.INTEGER;
  }

  /** Where {@code ||} and {@code &&} are OR and AND. */
  private Optional<String> words(Node node) {
    if (!rendering.from().has(Rule.BARS_ARE_OR) || rendering.to().has(Rule.BARS_ARE_OR)) {
      return Optional.empty();
    }
    List<Edit> edits = new ArrayList<>();
    List<? extends Node> terms = node.children();
    for (int i = 1; i < terms.size(); i++) {
      Span gap = Span.between(terms.get(i - 1).span(), terms.get(i).span());
      String text = rendering.reading().source().at(gap);
      String now = text.replace("||", "OR").replace("&&", "AND");
      if (!now.equals(text)) {
        edits.add(new Edit(gap, now));
      }
    }
    return edits.isEmpty() ? Optional.empty() : Optional.of(rendering.asItWas(node, edits));
  }

  private Optional<String> like(Condition.Like like) {
    Dialect to = rendering.to();
    boolean any = like.how() == Condition.Pattern.ILIKE;
    boolean known = to == Dialect.DUCKDB || to == Dialect.POSTGRESQL || to == Dialect.H2;
    if (any && !known) {
      String text =
          "LOWER("
              + rendering.write(like.value())
              + (like.negated() ? ") NOT LIKE LOWER(" : ") LIKE LOWER(")
              + rendering.write(like.pattern())
              + ")";
      String escape = like.escape() == null ? "" : " ESCAPE " + rendering.write(like.escape());
      return Optional.of(text + escape);
    }
    boolean changes = CASELESS.contains(rendering.from()) != CASELESS.contains(to);
    if (like.how() == Condition.Pattern.LIKE && changes) {
      rendering.caveat(
          "LIKE minds capitals in one of the two and not in the other, so that a row may match in"
              + " one alone where only capitals differ");
    }
    return Optional.empty();
  }

  private Optional<String> distinct(Condition.IsDistinct d) {
    boolean own = group(rendering.from()) != group(rendering.to());
    if (!own) {
      return Optional.empty();
    }
    String left = rendering.write(d.left());
    String right = rendering.write(d.right());
    return Optional.of(
        switch (rendering.to()) {
          case MARIADB ->
              d.negated() ? left + " <=> " + right : "NOT (" + left + " <=> " + right + ")";
          case SQLITE -> left + (d.negated() ? " IS " : " IS NOT ") + right;
          case DUCKDB, POSTGRESQL, H2, HSQLDB, TRINO, STANDARD ->
              left + (d.negated() ? " IS NOT DISTINCT FROM " : " IS DISTINCT FROM ") + right;
        });
  }

  private static int group(Dialect dialect) {
    return dialect == Dialect.MARIADB ? 1 : dialect == Dialect.SQLITE ? 2 : 0;
  }

  private Optional<String> comparison(Condition.Comparison c) {
    Span gap = Span.between(c.left().span(), c.right().span());
    String sign = rendering.reading().source().at(gap);
    boolean doubled = c.operator() == Condition.ComparisonOperator.EQUAL && sign.contains("==");
    return doubled
        ? Optional.of(rendering.asItWas(c, List.of(new Edit(gap, sign.replace("==", "=")))))
        : Optional.empty();
  }
}
