package io.lantrel.rewrite.forms;

import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Several equalities of one column, connected with OR, as IN (ISO/IEC 9075-2, 8.4: the two mean the
 * same). Constants of another type than the column stay: some products convert a list as a whole.
 */
final class InListForm {

  private final Reading reading;
  private final QueryBlock block;

  InListForm(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
  }

  /** One of the conditions: the column as it is named, and the values that it may have. */
  private record Choice(
      Expression whole, UseColumn column, Expression name, List<Expression> values) {}

  FormEdits change() {
    return Absence.conditions(block, Condition.Or.class)
        .map(this::edits)
        .filter(edits -> !edits.isEmpty())
        .findFirst()
        .map(FormEdits::of)
        .orElse(FormEdits.NONE);
  }

  private List<Edit> edits(Condition.Or or) {
    Map<UseColumn, List<Choice>> byColumn = new LinkedHashMap<>();
    or.terms().stream()
        .flatMap(term -> choice(term).stream())
        .forEach(
            each -> byColumn.computeIfAbsent(each.column(), key -> new ArrayList<>()).add(each));
    return byColumn.values().stream()
        .filter(choices -> choices.size() > 1)
        .findFirst()
        .map(choices -> edits(or, choices))
        .orElse(List.of());
  }

  private List<Edit> edits(Condition.Or or, List<Choice> choices) {
    List<String> values =
        choices.stream()
            .flatMap(each -> each.values().stream())
            .map(reading::text)
            .distinct()
            .toList();
    Choice first = choices.get(0);
    String list =
        reading.text(first.name())
            + " "
            + reading.edits(block).keyword("IN")
            + " ("
            + String.join(", ", values)
            + ")";
    List<Expression> others = choices.stream().skip(1).map(Choice::whole).toList();
    List<Edit> edits = new ArrayList<>();
    edits.add(new Edit(first.whole().span(), list));
    edits.addAll(reading.edits(block).without(or.terms(), others, "OR"));
    boolean enclosed = or.terms().get(0).span().start() == or.span().start() + 1;
    if (enclosed && choices.size() == or.terms().size()) {
      edits.addAll(Edit.withoutParentheses(or.span()));
    }
    return edits;
  }

  private Optional<Choice> choice(Expression term) {
    if (term instanceof Condition.InList in && !in.negated()) {
      return choice(term, in.value(), in.list());
    }
    if (term instanceof Condition.Comparison c && c.operator() == ComparisonOperator.EQUAL) {
      return choice(term, c.left(), List.of(c.right()))
          .or(() -> choice(term, c.right(), List.of(c.left())));
    }
    return Optional.empty();
  }

  private Optional<Choice> choice(Expression whole, Expression name, List<Expression> values) {
    return block
        .column(name)
        .filter(column -> values.stream().allMatch(value -> isLike(value, column.type())))
        .map(column -> new Choice(whole, column, name, values));
  }

  private static boolean isLike(Expression value, ColumnType type) {
    Expression plain = value instanceof Value.Signed signed ? signed.value() : value;
    if (!(plain instanceof Value.Literal literal)) {
      return false;
    }
    TypeFamily family = type.family();
    boolean number =
        family == TypeFamily.INTEGER || family == TypeFamily.DECIMAL || family == TypeFamily.FLOAT;
    return switch (literal.kind()) {
      case NUMBER -> number;
      case STRING -> !number && family != TypeFamily.TRUTH && family != TypeFamily.OTHER;
      case DATE -> family == TypeFamily.DATE;
      case TIME -> family == TypeFamily.TIME;
      case TIMESTAMP -> family == TypeFamily.TIMESTAMP;
      default -> false;
    };
  }
}
