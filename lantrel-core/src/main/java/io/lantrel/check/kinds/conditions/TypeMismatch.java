package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Value.LiteralKind;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/**
 * Two columns of unlike types compared: a number with a text, a day with a moment. Engines convert
 * one of the two, each in its way, or refuse (ISO/IEC 9075-2, 9.11, equality operations).
 */
public final class TypeMismatch implements Check {

  private static final Set<TypeFamily> NUMBERS =
      EnumSet.of(TypeFamily.INTEGER, TypeFamily.DECIMAL, TypeFamily.FLOAT);

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (Condition.Comparison each : subject.nodes(Condition.Comparison.class)) {
      if (each.operator() == ComparisonOperator.EQUAL
          || each.operator() == ComparisonOperator.NOT_EQUAL) {
        pair(each.left(), each.right(), each.span(), subject).ifPresent(suspicions::add);
      }
    }
    for (Condition each : subject.nodes(Condition.class)) {
      textWithNumber(each, subject).ifPresent(suspicions::add);
    }
    for (Conjunct each : subject.block().conjuncts()) {
      boolean unwritten =
          each.origin() == Conjunct.Origin.USING || each.origin() == Conjunct.Origin.NATURAL;
      if (unwritten && each.equality().isPresent()) {
        UseColumn left = each.equality().get().left();
        UseColumn right = each.equality().get().right();
        if (unlike(left, right)) {
          suspicions.add(suspicion(left, right, each.span(), List.of(), subject));
        }
      }
    }
    return suspicions;
  }

  private static Optional<Suspicion> pair(
      Expression one, Expression other, Span place, Subject subject) {
    Optional<UseColumn> left = subject.block().column(one);
    Optional<UseColumn> right = subject.block().column(other);
    if (left.isEmpty() || right.isEmpty() || !unlike(left.get(), right.get())) {
      return Optional.empty();
    }
    return Optional.of(
        suspicion(
            left.get(),
            right.get(),
            place,
            List.of(cast(one, left.get(), other, right.get(), subject)),
            subject));
  }

  /** A column of texts compared with a number that is written without quotes. */
  private static Optional<Suspicion> textWithNumber(Condition condition, Subject subject) {
    List<Expression> values = Condition.compared(condition);
    List<Literal> numbers =
        values.stream()
            .filter(each -> each instanceof Literal value && value.kind() == LiteralKind.NUMBER)
            .map(Literal.class::cast)
            .toList();
    Optional<UseColumn> text =
        values.stream()
            .flatMap(each -> subject.block().column(each).stream())
            .filter(each -> each.type().family() == TypeFamily.TEXT)
            .findFirst();
    boolean harmless = subject.block().dialect().has(Rule.NUMBERS_BESIDE_TEXTS_ARE_TEXTS);
    if (harmless
        || text.isEmpty()
        || numbers.isEmpty()
        || numbers.stream().anyMatch(subject::hasParameter)) {
      return Optional.empty();
    }
    String number = subject.text(numbers.get(0));
    String message =
        text.get().words()
            + " is "
            + text.get().type().text().toUpperCase(Locale.ROOT)
            + " and "
            + number
            + " a number: engines convert every text for that, so that '0"
            + number
            + "' is the same and one that is no number ends the query, or refuse it. Write '"
            + number
            + "'.";
    List<Edit> quoted =
        numbers.stream()
            .map(each -> new Edit(each.span(), "'" + subject.text(each) + "'"))
            .toList();
    Conclusion conclusion =
        Conclusion.warning(
            message,
            List.of(text.get().words() + " is of type " + text.get().type().text()),
            List.of(quoted));
    return Optional.of(
        new Suspicion(
            Kind.TYPE_MISMATCH,
            condition.span(),
            List.of(condition.span()),
            List.of(),
            answers -> Optional.of(conclusion)));
  }

  private static Suspicion suspicion(
      UseColumn left, UseColumn right, Span place, List<List<Edit>> repairs, Subject subject) {
    String harm =
        left.type().family() == TypeFamily.TEXT || right.type().family() == TypeFamily.TEXT
            ? "one is converted row by row, '07' and 7 may be the same or not, and a text that is no"
                + " number can end the query"
            : "a day equals only the moment at its midnight";
    String message =
        left.words()
            + " is "
            + left.type().text().toUpperCase(Locale.ROOT)
            + " and "
            + right.words()
            + " is "
            + right.type().text().toUpperCase(Locale.ROOT)
            + ": "
            + harm
            + ". Compare columns of one type, or say with CAST how they are to be compared.";
    List<Span> about = new ArrayList<>(List.of(place));
    subject.block().steps().stream()
        .filter(step -> step.conjuncts().stream().anyMatch(each -> each.span().isSame(place)))
        .forEach(step -> about.add(step.place()));
    Conclusion conclusion =
        Conclusion.warning(
            message,
            List.of(
                left.words() + " is of type " + left.type().text(),
                right.words() + " is of type " + right.type().text()),
            repairs);
    return new Suspicion(
        Kind.TYPE_MISMATCH, place, about, List.of(), answers -> Optional.of(conclusion));
  }

  private static boolean unlike(UseColumn left, UseColumn right) {
    TypeFamily one = left.type().family();
    TypeFamily other = right.type().family();
    return one != other && (isPair(one, other) || isPair(other, one));
  }

  private static boolean isPair(TypeFamily one, TypeFamily other) {
    return (one == TypeFamily.TEXT && NUMBERS.contains(other))
        || (one == TypeFamily.TEXT && (other == TypeFamily.DATE || other == TypeFamily.TIMESTAMP))
        || (one == TypeFamily.DATE && other == TypeFamily.TIMESTAMP);
  }

  /** The number as a text, which cannot fail; the moment as its day. */
  private static List<Edit> cast(
      Expression one, UseColumn left, Expression other, UseColumn right, Subject subject) {
    boolean days =
        left.type().family() == TypeFamily.DATE || right.type().family() == TypeFamily.DATE;
    boolean text =
        left.type().family() == TypeFamily.TEXT || right.type().family() == TypeFamily.TEXT;
    TypeFamily converted = text ? TypeFamily.TEXT : TypeFamily.DATE;
    Expression value = left.type().family() == converted ? other : one;
    String type = text || !days ? textType(left, right) : "DATE";
    return List.of(
        new Edit(
            value.span(),
            subject.edits().keyword("CAST")
                + "("
                + subject.text(value)
                + " "
                + subject.edits().keyword("AS")
                + " "
                + subject.edits().keyword(type)
                + ")"));
  }

  private static String textType(UseColumn left, UseColumn right) {
    UseColumn text = left.type().family() == TypeFamily.TEXT ? left : right;
    return text.type().text().toUpperCase(Locale.ROOT);
  }
}
