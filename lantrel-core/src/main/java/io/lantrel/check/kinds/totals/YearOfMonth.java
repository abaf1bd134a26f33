package io.lantrel.check.kinds.totals;

import io.lantrel.check.suspicion.Subject;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Call.WordedCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Literal;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;

/** The year that belongs to a month, a quarter or a week which a query takes from a date. */
final class YearOfMonth {

  private static final Set<String> PARTS = Set.of("month", "quarter", "week");

  /** Functions whose first or second argument says which part, and what says the year there. */
  private static final Map<String, Map<String, String>> FORMATS =
      Map.of(
          "strftime", Map.of("'%m'", "'%Y'", "'%W'", "'%Y'"),
          "to_char", Map.of("'MM'", "'YYYY'", "'Q'", "'YYYY'", "'WW'", "'YYYY'"),
          "date_format", Map.of("'%m'", "'%Y'", "'%c'", "'%Y'"));

  private static final Pattern YEAR = Pattern.compile("(?i)%y|yyyy|year");

  private static final Set<String> TAKING_PARTS = Set.of("date_part", "datepart");

  private YearOfMonth() {}

  /** The year of what a value takes the month of; empty if it takes none. */
  static Optional<Expression> of(Expression value) {
    Optional<Expression> date = date(value);
    if (date.isPresent()) {
      return Optional.of(
          new WordedCall(Span.NOWHERE, "EXTRACT", List.of(date.get()), List.of("YEAR FROM", "")));
    }
    if (!(value instanceof FunctionCall call)) {
      return Optional.empty();
    }
    List<Expression> arguments = call.arguments();
    if (arguments.size() != 2) {
      return Optional.empty();
    }
    for (int i = 0; i < 2; i++) {
      Optional<String> format =
          arguments.get(i) instanceof Literal literal ? yearly(call, literal) : Optional.empty();
      if (format.isPresent()) {
        List<Expression> others = new ArrayList<>(arguments);
        others.set(i, Literal.string(format.get().substring(1, format.get().length() - 1)));
        return Optional.of(new FunctionCall(Span.NOWHERE, call.name(), false, false, others, null));
      }
    }
    return Optional.empty();
  }

  /** The date of {@code EXTRACT(MONTH FROM date)} and {@code MONTH(date)}. */
  private static Optional<Expression> date(Expression month) {
    if (month instanceof WordedCall call) {
      return call.key().equals("extract") && PARTS.contains(part(call).toLowerCase(Locale.ROOT))
          ? Optional.of(call.values().get(0))
          : Optional.empty();
    }
    return month instanceof FunctionCall call
            && PARTS.contains(call.key())
            && call.arguments().size() == 1
        ? Optional.of(call.arguments().get(0))
        : Optional.empty();
  }

  private static String part(WordedCall call) {
    return call.words().get(0).replaceFirst(" FROM$", "").replace("'", "");
  }

  private static Optional<String> yearly(FunctionCall call, Literal literal) {
    boolean part =
        TAKING_PARTS.contains(call.key())
            && PARTS.contains(literal.text().replace("'", "").toLowerCase(Locale.ROOT));
    return part
        ? Optional.of("'year'")
        : Optional.ofNullable(FORMATS.getOrDefault(call.key(), Map.of()).get(literal.text()));
  }

  /** Whether the query says the year anywhere, or groups by the day itself. */
  static boolean isSaid(Expression month, QueryBlock block) {
    Set<UseColumn> days = new HashSet<>(block.columnsIn(month));
    block.groupedBy().forEach(each -> block.column(each).ifPresent(days::remove));
    return days.isEmpty()
        || block
            .select()
            .preorder()
            .anyMatch(
                node ->
                    (node instanceof Literal literal && YEAR.matcher(literal.text()).find())
                        || (node instanceof WordedCall call && part(call).equalsIgnoreCase("year"))
                        || (node instanceof FunctionCall call && call.key().contains("year")));
  }

  /** The same as text; empty if it is taken by a format. */
  static Optional<String> text(Expression month, Subject subject) {
    return date(month).map(date -> "EXTRACT(YEAR FROM " + subject.text(date) + ")");
  }
}
