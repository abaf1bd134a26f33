package io.lantrel.portability;

import static io.lantrel.sql.Dialect.DUCKDB;
import static io.lantrel.sql.Dialect.H2;
import static io.lantrel.sql.Dialect.HSQLDB;
import static io.lantrel.sql.Dialect.MARIADB;
import static io.lantrel.sql.Dialect.POSTGRESQL;
import static io.lantrel.sql.Dialect.SQLITE;
import static io.lantrel.sql.Dialect.TRINO;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.Cast;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Value.LiteralKind;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;

/** Constants, casts, and functions that have one name and several meanings. */
final class ValueConstructs {

  private static final Pattern CASTS_OF_MARIADB =
      Pattern.compile(
          "(BINARY|CHAR|NCHAR|DATE|DATETIME|TIME|DECIMAL|DEC|DOUBLE|FLOAT|INT|INTEGER"
              + "|(UN)?SIGNED( INTEGER)?)(\\(.*)?|VARCHAR\\(.*");

  static final List<Construct> ALL =
      List.of(
          // ---- constants
          Construct.differing(
              "a backslash in a text",
              "is a backslash",
              Construct.having(Rule.BACKSLASH_ESCAPES),
              "makes a special character of what follows",
              "another way to say it",
              Literal.class,
              (text, passage) ->
                  text.kind() == LiteralKind.STRING
                      && passage.text(text).startsWith("'")
                      && passage.text(text).contains("\\")),
          Construct.lacking(
              Set.of(MARIADB, SQLITE, HSQLDB, TRINO),
              "text with E before it",
              "the characters themselves",
              Literal.class,
              (text, passage) -> passage.text(text).matches("(?is)e'.*")),
          Construct.differing(
              "a backslash in a text with E before it",
              "begins a sign for another character",
              Set.of(H2),
              "stays as it is",
              "the characters themselves",
              Literal.class,
              (text, passage) -> passage.text(text).matches("(?is)e'.*[\\\\].*")),
          Construct.only(
              Construct.having(Rule.DOLLAR_QUOTES),
              "text in dollar signs",
              "quotes",
              Literal.class,
              (text, passage) ->
                  passage.text(text).startsWith("$") && text.kind() == LiteralKind.STRING),
          Construct.only(
              Construct.having(Rule.UNDERSCORES_IN_NUMBERS),
              "number with underscores",
              "the digits alone",
              Literal.class,
              (number, passage) ->
                  number.kind() == LiteralKind.NUMBER && passage.text(number).contains("_")),
          Construct.differing(
                  "what begins with 0x",
                  "is a number",
                  Set.of(MARIADB),
                  "is a text of bytes",
                  "the number in decimal digits",
                  Literal.class,
                  (number, passage) ->
                      passage.text(number).toLowerCase(Locale.ROOT).startsWith("0x"))
              .missingIn(Set.of(DUCKDB, HSQLDB)),
          Construct.only(
              Set.of(DUCKDB, TRINO),
              "list in brackets",
              "IN (…), or rows",
              Value.ArrayValue.class,
              (list, passage) -> !list.word()),
          Construct.lacking(
              Set.of(SQLITE),
              "DATE, TIME or TIMESTAMP before a text",
              "the text alone",
              Literal.class,
              (text, passage) ->
                  text.kind() == LiteralKind.DATE
                      || text.kind() == LiteralKind.TIME
                      || text.kind() == LiteralKind.TIMESTAMP),
          Construct.lacking(
              Set.of(SQLITE),
              "INTERVAL",
              "date(…, '+1 day')",
              Value.class,
              (value, passage) ->
                  isInterval(value) && !isUnitWithin(value) && isQuotedCount(value, passage)),
          Construct.only(
              Set.of(DUCKDB, POSTGRESQL),
              "INTERVAL whose unit stands in the quotes",
              "INTERVAL '1' DAY, with the unit behind them",
              Value.class,
              (value, passage) -> isInterval(value) && isUnitWithin(value)),
          Construct.only(
              Set.of(DUCKDB, MARIADB, HSQLDB),
              "INTERVAL whose number stands without quotes",
              "INTERVAL '1' DAY, with quotes",
              Value.class,
              (value, passage) ->
                  isInterval(value) && !isUnitWithin(value) && !isQuotedCount(value, passage)),

          // ---- casts
          Construct.only(
              Set.of(DUCKDB, POSTGRESQL, H2),
              "::",
              "CAST(… AS …)",
              Cast.class,
              (cast, passage) -> !passage.text(cast).matches("(?is)(TRY_)?CAST.*")),
          Construct.only(
              Set.of(DUCKDB, TRINO),
              "TRY_CAST",
              "CASE WHEN the value fits THEN CAST(…) END",
              Cast.class,
              (cast, passage) -> cast.trying()),
          Construct.lacking(
              Set.of(MARIADB),
              "CAST to this type",
              "CHAR, SIGNED, DECIMAL, DOUBLE, DATE or DATETIME",
              Cast.class,
              (cast, passage) -> !CASTS_OF_MARIADB.matcher(type(cast)).matches()),
          Construct.lacking(
              Set.of(HSQLDB, TRINO),
              "CAST to TEXT",
              "VARCHAR(…)",
              Cast.class,
              (cast, passage) -> type(cast).equals("TEXT")),
          Construct.lacking(
              Set.of(POSTGRESQL),
              "type DOUBLE",
              "DOUBLE PRECISION",
              Cast.class,
              (cast, passage) -> type(cast).equals("DOUBLE")),
          Construct.lacking(
              Set.of(POSTGRESQL, HSQLDB, TRINO),
              "CAST to SIGNED",
              "INTEGER or BIGINT",
              Cast.class,
              (cast, passage) -> type(cast).startsWith("SIGNED")),
          Construct.lacking(
              Set.of(POSTGRESQL, H2, TRINO),
              "type DATETIME",
              "TIMESTAMP",
              Cast.class,
              (cast, passage) -> type(cast).equals("DATETIME")),
          Construct.lacking(
              Set.of(TRINO),
              "type NUMERIC",
              "DECIMAL",
              Cast.class,
              (cast, passage) -> type(cast).startsWith("NUMERIC")),
          Construct.lacking(
              Set.of(TRINO),
              "CAST of a number to CHAR",
              "VARCHAR",
              Cast.class,
              (cast, passage) ->
                  type(cast).matches("CHAR(\\(.*)?")
                      && (passage.isWhole(cast.value())
                          || passage.family(cast.value()) == TypeFamily.DECIMAL)),
          Construct.differing(
              "a CAST to a number of some digits",
              "rounds to them",
              Set.of(SQLITE),
              "leaves the digits as they are",
              "ROUND(…, …)",
              Cast.class,
              (cast, passage) -> type(cast).matches("(DECIMAL|NUMERIC)\\(.*")),

          // ---- functions
          Construct.differing(
              "CONCAT with a value that is NULL",
              "passes over it",
              Set.of(MARIADB, HSQLDB, TRINO),
              "is NULL as a whole",
              "COALESCE(…, '') around what can be NULL",
              FunctionCall.class,
              (call, passage) ->
                  call.key().equals("concat")
                      && call.arguments().stream().anyMatch(passage::canBeNull)),
          Construct.differing(
              "GREATEST or LEAST with a value that is NULL",
              "passes over it",
              Set.of(MARIADB, H2, HSQLDB, TRINO),
              "is NULL as a whole",
              "COALESCE(…) around what can be NULL",
              FunctionCall.class,
              (call, passage) ->
                  Set.of("greatest", "least").contains(call.key())
                      && call.arguments().stream().anyMatch(passage::canBeNull)),
          Construct.differing(
              "LENGTH of letters beyond A to Z",
              "counts characters",
              Set.of(MARIADB),
              "counts bytes",
              "CHAR_LENGTH",
              FunctionCall.class,
              (call, passage) ->
                  call.key().equals("length")
                      && call.arguments().size() == 1
                      && passage.text(call).chars().anyMatch(c -> c > 127)),
          Construct.differing(
              "AVG of whole numbers",
              "has a fraction",
              Set.of(HSQLDB),
              "is a whole number",
              "AVG(CAST(… AS DECIMAL(18, 4)))",
              FunctionCall.class,
              (call, passage) ->
                  call.key().equals("avg")
                      && call.arguments().size() == 1
                      && passage.isWhole(call.arguments().get(0))),
          Construct.lacking(
              Set.of(MARIADB),
              "FILTER",
              "CASE WHEN … THEN … END within the aggregate",
              FunctionCall.class,
              (call, passage) -> call.filter() != null),
          Construct.lacking(
              Set.of(SQLITE),
              "EXTRACT, POSITION, and SUBSTRING with FROM",
              "STRFTIME, INSTR and SUBSTR",
              Call.WordedCall.class,
              (call, passage) -> Set.of("extract", "position", "substring").contains(call.key())),
          Construct.only(
              Set.of(MARIADB, H2, HSQLDB),
              "GROUP_CONCAT with SEPARATOR",
              "GROUP_CONCAT(…, ',') or STRING_AGG(…, ',')",
              FunctionCall.class,
              (call, passage) -> call.key().equals("group_concat") && call.separator() != null),
          Construct.differing(
                  "GROUP_CONCAT of two values",
                  "puts the second between the rows",
                  Set.of(MARIADB),
                  "puts both values of each row together",
                  "the function of that engine",
                  FunctionCall.class,
                  (call, passage) ->
                      call.key().equals("group_concat") && call.arguments().size() == 2)
              .missingIn(Set.of(H2, HSQLDB)),
          Construct.only(
              Set.of(H2, HSQLDB, TRINO),
              "LISTAGG … WITHIN GROUP",
              "STRING_AGG(… ORDER BY …), or GROUP_CONCAT",
              FunctionCall.class,
              (call, passage) -> call.key().equals("listagg") && !call.withinGroup().isEmpty()),
          Construct.only(
              Set.of(DUCKDB, H2),
              "LISTAGG without WITHIN GROUP",
              "STRING_AGG, or GROUP_CONCAT",
              FunctionCall.class,
              (call, passage) -> call.key().equals("listagg") && call.withinGroup().isEmpty()),
          Construct.lacking(
              Set.of(MARIADB),
              "MEDIAN without OVER",
              "PERCENTILE_CONT(0.5) WITHIN GROUP (…) OVER (…)",
              FunctionCall.class,
              (call, passage) -> call.key().equals("median") && call.over() == null),
          Construct.differing(
                  "logarithm without its base",
                  "is the logarithm to base 10",
                  Set.of(MARIADB, H2, HSQLDB),
                  "is the natural logarithm",
                  "LN, or LOG10",
                  FunctionCall.class,
                  (call, passage) -> call.key().equals("log") && call.arguments().size() == 1)
              .missingIn(Set.of(TRINO)),
          Construct.differing(
                  "COUNT(DISTINCT …, …)",
                  "passes over rows with a NULL",
                  Set.of(HSQLDB),
                  "counts rows with a NULL as well",
                  "COUNT(*) over SELECT DISTINCT in FROM",
                  FunctionCall.class,
                  (call, passage) ->
                      call.key().equals("count") && call.distinct() && call.arguments().size() > 1)
              .missingIn(Set.of(DUCKDB, POSTGRESQL, SQLITE, H2, TRINO)),
          Construct.lacking(
              Set.of(MARIADB, SQLITE),
              "COUNT(DISTINCT (…, …))",
              "COUNT(*) over SELECT DISTINCT in FROM",
              FunctionCall.class,
              (call, passage) ->
                  call.key().equals("count")
                      && call.distinct()
                      && call.arguments().size() == 1
                      && call.arguments().get(0) instanceof Value.RowValue),
          Construct.lacking(
              Set.of(DUCKDB, H2),
              "DATEDIFF of two values",
              "DATE_DIFF('day', …, …)",
              FunctionCall.class,
              (call, passage) -> call.key().equals("datediff") && call.arguments().size() == 2));

  private ValueConstructs() {}

  private static String type(Cast cast) {
    return cast.type().text().toUpperCase(Locale.ROOT).strip();
  }

  private static boolean isInterval(Value value) {
    return value instanceof Value.Interval
        || (value instanceof Literal literal && literal.kind() == LiteralKind.INTERVAL);
  }

  /** A constant keeps what stands in its quotes. */
  private static boolean isUnitWithin(Value value) {
    return value instanceof Literal literal
        && literal.text().matches("(?is)INTERVAL\\s*'[^']*[a-z][^']*'\\s*");
  }

  private static boolean isQuotedCount(Value value, Passage passage) {
    return passage.text(value).contains("'");
  }
}
