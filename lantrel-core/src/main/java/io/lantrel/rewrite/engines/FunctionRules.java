package io.lantrel.rewrite.engines;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;

/** Functions that the other product calls otherwise, or whose name means another thing there. */
record FunctionRules(Rendering rendering) implements Rendering.Rules {

  private static final Set<String> LISTS = Set.of("string_agg", "listagg", "group_concat");

  /** What SQLite's strftime calls the parts of a date. */
  private static final Map<String, String> PARTS =
      Map.of("YEAR", "%Y", "MONTH", "%m", "DAY", "%d", "HOUR", "%H", "MINUTE", "%M");

  /** Where CONCAT is NULL as soon as one value is. */
  private static final Set<Dialect> STRICT_CONCAT =
      EnumSet.of(Dialect.MARIADB, Dialect.HSQLDB, Dialect.TRINO);

  @Override
  public Optional<String> write(Node node) {
    if (node instanceof Call.WordedCall worded) {
      return worded(worded);
    }
    if (!(node instanceof Call.FunctionCall call)) {
      return Optional.empty();
    }
    if (LISTS.contains(call.key()) && !call.arguments().isEmpty() && call.over() == null) {
      return list(call);
    }
    if (call.filter() != null && rendering.to() == Dialect.MARIADB) {
      return Optional.of(filtered(call));
    }
    return switch (call.key()) {
      case "ifnull", "nvl" -> named("COALESCE", call);
      case "if", "iif" -> choice(call);
      case "length", "len", "char_length", "character_length" -> length(call);
      case "now" -> Optional.of("CURRENT_TIMESTAMP");
      case "curdate", "current_date" -> Optional.of("CURRENT_DATE");
      case "year", "month", "day", "hour", "minute" -> part(call.key(), call.arguments());
      case "left", "right" -> end(call);
      case "concat" -> concat(call);
      default -> Optional.empty();
    };
  }

  private String first(Call.FunctionCall call) {
    return rendering.write(call.arguments().get(0));
  }

  private List<String> written(List<? extends Node> nodes) {
    return nodes.stream().map(rendering::write).toList();
  }

  private Optional<String> named(String name, Call.FunctionCall call) {
    return Optional.of(name + "(" + String.join(", ", written(call.arguments())) + ")");
  }

  private Optional<String> choice(Call.FunctionCall call) {
    if (call.arguments().size() != 3) {
      return Optional.empty();
    }
    List<String> parts = written(call.arguments());
    return Optional.of(
        "CASE WHEN " + parts.get(0) + " THEN " + parts.get(1) + " ELSE " + parts.get(2) + " END");
  }

  /** In MariaDB LENGTH counts bytes. */
  private Optional<String> length(Call.FunctionCall call) {
    if (call.arguments().size() != 1) {
      return Optional.empty();
    }
    boolean bytes = rendering.from() == Dialect.MARIADB && call.key().equals("length");
    return switch (rendering.to()) {
      case MARIADB -> named("CHAR_LENGTH", call);
      case SQLITE ->
          bytes ? Optional.of("LENGTH(CAST(" + first(call) + " AS BLOB))") : named("LENGTH", call);
      case DUCKDB -> named(bytes ? "STRLEN" : "LENGTH", call);
      case HSQLDB -> {
        if (bytes) {
          rendering.caveat("LENGTH counts bytes in MariaDB; here it counts characters");
        }
        yield named("CHAR_LENGTH", call);
      }
      case TRINO ->
          bytes ? Optional.of("LENGTH(TO_UTF8(" + first(call) + "))") : named("LENGTH", call);
      case POSTGRESQL, H2, STANDARD -> named(bytes ? "OCTET_LENGTH" : "CHAR_LENGTH", call);
    };
  }

  /** Two words that Trino keeps for joins. */
  private Optional<String> end(Call.FunctionCall call) {
    if (rendering.to() != Dialect.TRINO || call.arguments().size() != 2) {
      return Optional.empty();
    }
    String count = rendering.write(call.arguments().get(1));
    return Optional.of(
        call.key().equals("left")
            ? "SUBSTR(" + first(call) + ", 1, " + count + ")"
            : "SUBSTR("
                + first(call)
                + ", GREATEST(LENGTH("
                + first(call)
                + ") - ("
                + count
                + "), 0) + 1)");
  }

  private Optional<String> part(String part, List<Expression> of) {
    if (of.size() != 1) {
      return Optional.empty();
    }
    String unit = part.toUpperCase(Locale.ROOT);
    String value = rendering.write(of.get(0));
    String code = PARTS.get(unit);
    return rendering.to() == Dialect.SQLITE
        ? code == null
            ? Optional.empty()
            : Optional.of("CAST(STRFTIME('" + code + "', " + value + ") AS INTEGER)")
        : Optional.of("EXTRACT(" + unit + " FROM " + value + ")");
  }

  private Optional<String> worded(Call.WordedCall call) {
    if (call.key().equals("extract") && rendering.to() == Dialect.SQLITE) {
      String unit = call.words().get(0).replaceFirst("(?i)\\s*FROM\\s*$", "").strip();
      return part(unit, call.values());
    }
    return Optional.empty();
  }

  /** One NULL makes all NULL in some products, and is passed over in others. */
  private Optional<String> concat(Call.FunctionCall call) {
    boolean before = STRICT_CONCAT.contains(rendering.from());
    boolean now = STRICT_CONCAT.contains(rendering.to());
    if (before == now) {
      return Optional.empty();
    }
    if (now) {
      List<String> parts = new ArrayList<>();
      written(call.arguments()).forEach(each -> parts.add("COALESCE(" + each + ", '')"));
      return Optional.of("CONCAT(" + String.join(", ", parts) + ")");
    }
    List<String> parts = new ArrayList<>();
    for (Expression each : call.arguments()) {
      parts.add(
          each instanceof Value.Arithmetic
              ? "(" + rendering.write(each) + ")"
              : rendering.write(each));
    }
    return Optional.of("(" + String.join(" || ", parts) + ")");
  }

  /** Texts put together from several rows. */
  private Optional<String> list(Call.FunctionCall call) {
    Dialect to = rendering.to();
    String separator =
        call.separator() != null
            ? rendering.write(call.separator())
            : call.arguments().size() > 1 ? rendering.write(call.arguments().get(1)) : "','";
    List<OrderItem> items = call.orderBy().isEmpty() ? call.withinGroup() : call.orderBy();
    String order = items.isEmpty() ? "" : " ORDER BY " + String.join(", ", written(items));
    String distinct = call.distinct() ? "DISTINCT " : "";
    String value = first(call);
    Expression of = call.arguments().get(0);
    boolean text = rendering.block(of).type(of).family() == TypeFamily.TEXT;
    String filter =
        call.filter() == null ? "" : " FILTER (WHERE " + rendering.write(call.filter()) + ")";
    return Optional.of(
        switch (to) {
          case DUCKDB -> "STRING_AGG(" + distinct + value + ", " + separator + order + ")" + filter;
          case POSTGRESQL, STANDARD -> {
            String cast = text ? value : "CAST(" + value + " AS TEXT)";
            yield "STRING_AGG(" + distinct + cast + ", " + separator + order + ")" + filter;
          }
          case SQLITE ->
              call.distinct()
                  ? "GROUP_CONCAT(DISTINCT " + withComma(value, separator) + ")" + filter
                  : "GROUP_CONCAT(" + value + ", " + separator + order + ")" + filter;
          case MARIADB -> {
            String some =
                call.filter() == null
                    ? value
                    : "CASE WHEN " + rendering.write(call.filter()) + " THEN " + value + " END";
            yield "GROUP_CONCAT(" + distinct + some + order + " SEPARATOR " + separator + ")";
          }
          case HSQLDB ->
              "GROUP_CONCAT(" + distinct + value + order + " SEPARATOR " + separator + ")" + filter;
          // What has no order there is put in one of its own.
          case TRINO ->
              "LISTAGG("
                  + distinct
                  + (text ? value : "CAST(" + value + " AS VARCHAR)")
                  + ", "
                  + separator
                  + ") WITHIN GROUP ("
                  + (order.isEmpty() ? "ORDER BY " + value : order.strip())
                  + ")"
                  + filter;
          case H2 ->
              "LISTAGG("
                  + distinct
                  + value
                  + ", "
                  + separator
                  + ")"
                  + (order.isEmpty() ? "" : " WITHIN GROUP (" + order.strip() + ")")
                  + filter;
        });
  }

  /** Of different values SQLite takes no other separator. */
  private static String withComma(String value, String separator) {
    if (!separator.equals("','")) {
      throw new RewriteException(
          "in SQLite different values can only be put together with a comma between them");
    }
    return value;
  }

  /** An aggregate passes over NULL, so FILTER is a CASE without ELSE. */
  private String filtered(Call.FunctionCall call) {
    String condition = rendering.write(Objects.requireNonNull(call.filter()));
    String value = call.star() || call.arguments().isEmpty() ? "1" : first(call);
    return rendering.reading().text(call.name().get(0))
        + "("
        + (call.distinct() ? "DISTINCT " : "")
        + "CASE WHEN "
        + condition
        + " THEN "
        + value
        + " END)"
        + over(call);
  }

  private String over(Call.FunctionCall call) {
    return call.over() == null ? "" : " OVER " + rendering.write(call.over());
  }
}
