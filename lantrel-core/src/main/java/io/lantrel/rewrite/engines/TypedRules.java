package io.lantrel.rewrite.engines;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** In Trino no value becomes one of another type by itself, so that its type is to be said. */
record TypedRules(Rendering rendering) implements Rendering.Rules {

  private static final Set<TypeFamily> NUMBERS =
      Set.of(TypeFamily.INTEGER, TypeFamily.DECIMAL, TypeFamily.FLOAT);

  @Override
  public Optional<String> write(Node node) {
    if (rendering.to() != Dialect.TRINO) {
      return Optional.empty();
    }
    if (node instanceof Condition.IsTruth test) {
      return Optional.of(truth(test));
    }
    if (node instanceof Value.Arithmetic a
        && a.operator() == Value.ArithmeticOperator.CONCAT
        && !(isText(a.left()) && isText(a.right()))) {
      return Optional.of(text(a.left()) + " || " + text(a.right()));
    }
    List<Edit> edits = new ArrayList<>();
    List<Expression> values = Condition.compared(node);
    for (int i = 1; i < values.size(); i++) {
      typed(values.get(0), values.get(i)).ifPresent(edits::add);
      typed(values.get(i), values.get(0))
          .filter(each -> !edits.contains(each))
          .ifPresent(edits::add);
    }
    return edits.isEmpty() ? Optional.empty() : Optional.of(rendering.asItWas(node, edits));
  }

  /** What a constant text is made beside a value of another type. */
  private Optional<Edit> typed(Expression value, Expression constant) {
    if (!(constant instanceof Value.Literal literal)
        || literal.kind() != Value.LiteralKind.STRING) {
      return Optional.empty();
    }
    String text = rendering.reading().text(literal);
    TypeFamily family = family(value);
    if (family == TypeFamily.DATE || family == TypeFamily.TIMESTAMP) {
      String type = text.matches("'[0-9]+-[0-9]+-[0-9]+'") ? "DATE " : "TIMESTAMP ";
      return Optional.of(Edit.insert(literal.span().start(), type));
    }
    return NUMBERS.contains(family) && text.matches("'-?[0-9]+(\\.[0-9]+)?'")
        ? Optional.of(new Edit(literal.span(), text.substring(1, text.length() - 1)))
        : Optional.empty();
  }

  private boolean isText(Expression value) {
    boolean joined =
        value instanceof Value.Arithmetic a && a.operator() == Value.ArithmeticOperator.CONCAT;
    boolean nothing =
        value instanceof Value.Literal literal && literal.kind() == Value.LiteralKind.NULL;
    TypeFamily family = family(value);
    return joined || nothing || family == TypeFamily.TEXT || family == TypeFamily.OTHER;
  }

  private String text(Expression value) {
    String written = rendering.write(value);
    return isText(value) ? written : "CAST(" + written + " AS VARCHAR)";
  }

  private TypeFamily family(Expression value) {
    return rendering.block(value).type(value).family();
  }

  /** A condition that is unknown is neither. */
  private String truth(Condition.IsTruth test) {
    String value = rendering.write(test.value());
    return switch (test.truth()) {
      case UNKNOWN -> "(" + value + ") IS " + (test.negated() ? "NOT " : "") + "NULL";
      case TRUE -> (test.negated() ? "NOT " : "") + "COALESCE(" + value + ", FALSE)";
      case FALSE -> (test.negated() ? "" : "NOT ") + "COALESCE(" + value + ", TRUE)";
    };
  }
}
