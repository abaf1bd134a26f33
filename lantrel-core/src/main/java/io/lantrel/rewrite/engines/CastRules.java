package io.lantrel.rewrite.engines;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.TypeName;
import io.lantrel.sql.tree.Value;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/** Casts in the words of the other product, with its names of types. */
record CastRules(Rendering rendering) implements Rendering.Rules {

  private static final Set<String> TEXTS =
      Set.of("TEXT", "VARCHAR", "STRING", "LONGVARCHAR", "CHAR", "CHARACTER VARYING", "CLOB");
  private static final Set<String> WHOLE =
      Set.of(
          "INT",
          "INTEGER",
          "BIGINT",
          "SMALLINT",
          "SIGNED",
          "SIGNED INTEGER",
          "UNSIGNED",
          "INT4",
          "INT8");
  private static final Set<String> FLOATS =
      Set.of("DOUBLE", "DOUBLE PRECISION", "FLOAT8", "REAL", "FLOAT");
  private static final Set<String> TIMES = Set.of("TIMESTAMP", "DATETIME");

  @Override
  public Optional<String> write(Node node) {
    if (!(node instanceof Value.Cast cast)) {
      return Optional.empty();
    }
    Dialect to = rendering.to();
    if (cast.trying() && to != Dialect.DUCKDB && to != Dialect.TRINO) {
      throw new RewriteException(
          "TRY_CAST gives NULL where a value does not fit; only DuckDB and Trino have it");
    }
    String text = rendering.reading().text(cast);
    boolean marked = !text.regionMatches(true, 0, "CAST", 0, 4);
    String type = type(cast.type());
    TypeFamily family = rendering.block(cast.value()).type(cast.value()).family();
    if (to == Dialect.TRINO && family != TypeFamily.TEXT && type.matches("(?i)CHAR\\(.*")) {
      // It makes a CHAR of nothing but texts.
      type = "VAR" + type;
    }
    boolean known = to == Dialect.DUCKDB || to == Dialect.POSTGRESQL || to == Dialect.H2;
    if (type.equals(cast.type().text()) && (!marked || known)) {
      return Optional.empty();
    }
    String value = rendering.write(cast.value());
    if (to == Dialect.SQLITE && type.equals("DATE")) {
      return Optional.of("DATE(" + value + ")");
    }
    return Optional.of("CAST(" + value + " AS " + type + ")");
  }

  private String type(TypeName type) {
    String text = type.text().toUpperCase(Locale.ROOT);
    Dialect to = rendering.to();
    if (TEXTS.contains(text)) {
      return switch (to) {
        case MARIADB -> "CHAR";
        case HSQLDB -> "LONGVARCHAR";
        case POSTGRESQL, SQLITE -> "TEXT";
        case STANDARD -> "VARCHAR(4000)";
        case DUCKDB, H2, TRINO -> "VARCHAR";
      };
    }
    if (WHOLE.contains(text)) {
      boolean own =
          text.startsWith("SIGNED") || text.startsWith("UNSIGNED") || text.matches("INT\\d");
      return to == Dialect.MARIADB ? "SIGNED" : own ? "BIGINT" : type.text();
    }
    if (FLOATS.contains(text)) {
      return to == Dialect.SQLITE
          ? "REAL"
          : to == Dialect.MARIADB || to == Dialect.DUCKDB ? "DOUBLE" : "DOUBLE PRECISION";
    }
    if (TIMES.contains(text)) {
      return to == Dialect.MARIADB ? "DATETIME" : to == Dialect.SQLITE ? "TEXT" : "TIMESTAMP";
    }
    if (to == Dialect.TRINO && text.startsWith("NUMERIC")) {
      return "DECIMAL" + type.text().substring("NUMERIC".length());
    }
    boolean date = text.equals("DATE") && to == Dialect.SQLITE;
    return date ? "DATE" : type.text();
  }
}
