package io.lantrel.sql;

import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Value.LiteralKind;
import java.math.BigDecimal;
import java.time.LocalDateTime;
import java.util.Collections;
import java.util.Comparator;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * Values for the parameters of a query: {@code :name} by its name, {@code $1} by its number, and
 * {@code ?} by its place among those of the statement, from 1.
 */
public final class ParameterValues {

  /** No values: every parameter stays open. */
  public static final ParameterValues NONE = new ParameterValues(Map.of());

  private final Map<String, @Nullable Object> values;

  private ParameterValues(Map<String, ? extends @Nullable Object> values) {
    this.values = Collections.unmodifiableMap(new LinkedHashMap<>(values));
  }

  /**
   * Values by name or number.
   *
   * @param values numbers, truth values and null as they are; anything else as a text, as {@code
   *     2026-05-01} or {@code 2026-05-01 12:30:00}
   */
  public static ParameterValues of(Map<String, ? extends @Nullable Object> values) {
    return values.isEmpty() ? NONE : new ParameterValues(values);
  }

  /** The names for which there are values. */
  public Set<String> names() {
    return values.keySet();
  }

  /** The names and numbers of a query's open parameters, without their signs. */
  public static Set<String> namesIn(Query query) {
    return new TreeSet<>(names(query).values());
  }

  private static Map<Value.Parameter, String> names(Query query) {
    List<Value.Parameter> open =
        query
            .preorder()
            .filter(Value.Parameter.class::isInstance)
            .map(Value.Parameter.class::cast)
            .filter(Value.Parameter::isOpen)
            .sorted(Comparator.comparingInt(each -> each.span().start()))
            .toList();
    Map<Value.Parameter, String> names = new IdentityHashMap<>();
    int unnamed = 0;
    for (Value.Parameter parameter : open) {
      String name = parameter.text().replaceFirst("^[:?$#]+", "");
      names.put(parameter, name.isEmpty() ? String.valueOf(++unnamed) : name);
    }
    return names;
  }

  /** The query with these values in the place of its parameters; those without a value stay. */
  public Query in(Query query) {
    if (values.isEmpty()) {
      return query;
    }
    Map<Value.Parameter, String> names = names(query);
    return new ColumnReplacer(name -> name, parameter -> given(parameter, names.get(parameter)))
        .apply(query);
  }

  private Expression given(Value.Parameter parameter, @Nullable String name) {
    return name == null || !values.containsKey(name)
        ? parameter
        : constant(values.get(name)).at(parameter.span());
  }

  private static Value constant(@Nullable Object value) {
    if (value == null) {
      return Literal.nothing();
    }
    if (value instanceof Double number && !Double.isFinite(number)) {
      throw new IllegalArgumentException("a parameter cannot have the value " + number);
    }
    if (value instanceof Number number) {
      BigDecimal plain = new BigDecimal(number.toString());
      Literal size = new Literal(Span.NOWHERE, LiteralKind.NUMBER, plain.abs().toPlainString());
      return plain.signum() < 0 ? new Value.Signed(Span.NOWHERE, true, size) : size;
    }
    if (value instanceof Boolean truth) {
      return new Literal(Span.NOWHERE, LiteralKind.TRUTH, truth ? "TRUE" : "FALSE");
    }
    String text =
        value instanceof LocalDateTime time ? time.toString().replace('T', ' ') : value.toString();
    return new Literal(Span.NOWHERE, LiteralKind.STRING, "'" + text.replace("'", "''") + "'");
  }
}
