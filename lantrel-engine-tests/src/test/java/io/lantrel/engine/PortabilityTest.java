package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.check.Finding;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import java.io.IOException;
import java.io.InputStream;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.testng.annotations.Test;

/** What an engine lacks or does otherwise, as the engines themselves show it. */
public class PortabilityTest {

  private static final String REFUSED = "-";

  private static List<String> queries() throws IOException {
    try (InputStream text =
        Objects.requireNonNull(PortabilityTest.class.getResourceAsStream("portability.sql"))) {
      List<String> queries = new ArrayList<>();
      for (String part : new String(text.readAllBytes(), StandardCharsets.UTF_8).split(";\n", -1)) {
        String sql = part.replaceAll("(?m)^--.*\n", "").strip();
        if (!sql.isEmpty()) {
          queries.add(sql);
        }
      }
      return queries;
    }
  }

  private static String outcome(Connection connection, String sql) {
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      return rows.next() ? value(rows.getString(1)) : "no row";
    } catch (SQLException refused) {
      return REFUSED;
    }
  }

  private static String value(String text) {
    if (text == null) {
      return "NULL";
    }
    return switch (text) {
      case "true", "TRUE", "t" -> "1";
      case "false", "FALSE", "f" -> "0";
      default ->
          text.matches("-?[0-9.]+(E[0-9]+)?")
              ? new BigDecimal(text).stripTrailingZeros().toPlainString()
              : text;
    };
  }

  /** Whether MariaDB finds a table by a name in other letters depends on where it keeps files. */
  private static boolean isOfFiles(Engine engine, String sql) {
    return engine == Engine.MARIADB && sql.matches("(?s).*S[Tt][Aa][Tt][Ii][Oo][Nn]\\b.*");
  }

  /** Whether it tells that the query is not taken. */
  private static boolean isOfNames(Finding finding) {
    return finding.severity() == Severity.ERROR || finding.kind() == Kind.NOT_IN_ENGINE;
  }

  /**
   * A query for one engine that shall run on another: what is told of it, where they differ and
   * only there.
   */
  @Test
  public void itIsToldWhereAndOnlyWhereTheEnginesDiffer() throws IOException, SQLException {
    Map<Engine, Connection> all = new EnumMap<>(Engine.class);
    Map<Engine, Lantrel> tables = new EnumMap<>(Engine.class);
    for (Engine engine : RiverDatabases.engines()) {
      all.put(engine, RiverDatabases.writing(RiverDatabases.access(engine)));
      try (Lantrel open = RiverDatabases.open(engine)) {
        tables.put(engine, open.tablesAlone(engine.dialect()));
      }
    }
    List<String> wrong = new ArrayList<>();
    int told = 0;
    int untold = 0;
    for (String sql : queries()) {
      Map<Engine, String> outcomes = new EnumMap<>(Engine.class);
      all.forEach((engine, connection) -> outcomes.put(engine, outcome(connection, sql)));
      for (Engine here : all.keySet()) {
        String own = outcomes.getOrDefault(here, REFUSED);
        Lantrel lantrel = Objects.requireNonNull(tables.get(here));
        Study alone = lantrel.alsoOn(Set.of()).study(sql);
        boolean isFaulty = alone.findings().stream().anyMatch(PortabilityTest::isOfNames);
        boolean missed = own.equals(REFUSED) && !isFaulty && !isOfFiles(here, sql);
        if (alone.isUnderstood() && (missed || (isFaulty && !own.equals(REFUSED)))) {
          wrong.add(sql + "\n    at " + here + " alone: " + own + ", said: " + alone.findings());
        }
        if (own.equals(REFUSED)) {
          continue;
        }
        for (Engine there : all.keySet()) {
          boolean differs = !own.equals(outcomes.get(there));
          Study study = lantrel.alsoOn(Set.of(there)).study(sql);
          List<String> said =
              study.findings().stream()
                  .filter(each -> each.kind() == Kind.NOT_IN_ENGINE)
                  .map(Finding::message)
                  .toList();
          if (differs == said.isEmpty() && study.isUnderstood()) {
            wrong.add(
                sql + "\n    from " + here + " to " + there + ": " + outcomes + ", said: " + said);
          }
          told += differs ? 1 : 0;
          untold += differs ? 0 : 1;
        }
      }
    }
    for (Connection connection : all.values()) {
      connection.close();
    }
    assertThat(wrong).isEmpty();
    assertThat(told).isGreaterThan(800);
    assertThat(untold).isGreaterThan(800);
  }

  private static final List<String> ARGUMENTS =
      List.of(
          "",
          "1",
          "'a'",
          "1, 1",
          "'a', 'a'",
          "'a', 1",
          "1, 1, 1",
          "'a', 1, 'a'",
          "'a', 'a', 'a'",
          "DATE '2026-01-01'",
          "'2026-01-01'",
          "1, 'a', 'b'");

  /** The names of functions that most have, and of all that some engine has not. */
  private static Set<String> functions() throws IOException {
    Set<String> names = new TreeSet<>();
    for (String file :
        List.of("harmless/standard.txt", "/io/lantrel/portability/absent-functions.txt")) {
      try (InputStream text =
          Objects.requireNonNull(Engine.class.getResourceAsStream(file), file)) {
        new String(text.readAllBytes(), StandardCharsets.UTF_8)
            .lines()
            .filter(line -> !line.startsWith("#"))
            .flatMap(line -> Stream.of(line.replaceFirst("^\\w+: ", "").split(" ", -1)))
            .forEach(names::add);
      }
    }
    names.removeAll(NO_FUNCTIONS);
    return names;
  }

  /** Words that stand before a parenthesis otherwise than a function does. */
  private static final Set<String> NO_FUNCTIONS =
      Set.of(
          "any",
          "some",
          "row",
          "character",
          "text",
          "timestamp",
          "interval",
          "position",
          "grouping",
          "percentile_cont",
          "percentile_disc",
          "last_value",
          "current_time",
          "current_timestamp",
          "localtime",
          "localtimestamp");

  /** What an engine says of a function. */
  private enum Known {
    RUNS,
    UNKNOWN,
    UNCLEAR
  }

  /** Those that a cluster lists need not be tried, which takes its time there. */
  private static Set<String> listed(Connection connection, Engine engine) throws SQLException {
    Set<String> names = new TreeSet<>();
    if (engine == Engine.TRINO) {
      try (Statement statement = connection.createStatement();
          ResultSet rows = statement.executeQuery("SHOW FUNCTIONS")) {
        while (rows.next()) {
          names.add(rows.getString(1));
        }
      }
    }
    return names;
  }

  private static Known ask(Connection connection, Engine engine, String name) {
    boolean unknown = false;
    for (String arguments : ARGUMENTS) {
      try (Statement statement = connection.createStatement()) {
        statement.executeQuery("SELECT " + name + "(" + arguments + ") FROM river WHERE id = 1");
        return Known.RUNS;
      } catch (SQLException refused) {
        unknown |= saysUnknown(refused, engine);
      }
    }
    return unknown && !isInPostgresql(connection, engine, name) ? Known.UNKNOWN : Known.UNCLEAR;
  }

  private static boolean saysUnknown(SQLException refused, Engine engine) {
    String message = String.valueOf(refused.getMessage());
    return switch (engine) {
      case DUCKDB -> message.contains("Function with name") && message.contains("does not exist");
      case POSTGRESQL -> "42883".equals(refused.getSQLState());
      case MARIADB -> refused.getErrorCode() == 1305 || refused.getErrorCode() == 1630;
      case SQLITE -> message.contains("no such function");
      case H2 -> refused.getErrorCode() == 90022;
      case HSQLDB -> refused.getErrorCode() == -5501;
      case TRINO -> message.contains("not registered");
      case OTHER -> false;
    };
  }

  /** PostgreSQL says the same of a function that is there for other types. */
  private static boolean isInPostgresql(Connection connection, Engine engine, String name) {
    return engine == Engine.POSTGRESQL
        && !outcome(connection, "SELECT COUNT(*) FROM pg_proc WHERE proname = '" + name + "'")
            .equals("0");
  }

  @Test
  public void functionsAreMissedWhereTheEngineDoesNotKnowThem() throws IOException, SQLException {
    Map<String, Map<Engine, Known>> known = new TreeMap<>();
    Map<Engine, Lantrel> tables = new EnumMap<>(Engine.class);
    for (Engine engine : RiverDatabases.engines()) {
      try (Connection connection = RiverDatabases.writing(RiverDatabases.access(engine));
          Lantrel open = RiverDatabases.open(engine)) {
        tables.put(engine, open.tablesAlone(engine.dialect()));
        Set<String> listed = listed(connection, engine);
        for (String name : functions()) {
          known
              .computeIfAbsent(name, key -> new EnumMap<>(Engine.class))
              .put(engine, listed.contains(name) ? Known.RUNS : ask(connection, engine, name));
        }
      }
    }
    List<String> wrong = new ArrayList<>();
    int missed = 0;
    for (Map.Entry<String, Map<Engine, Known>> each : known.entrySet()) {
      for (Map.Entry<Engine, Known> here : each.getValue().entrySet()) {
        if (here.getValue() != Known.RUNS) {
          continue;
        }
        for (Map.Entry<Engine, Known> there : each.getValue().entrySet()) {
          boolean told =
              Objects.requireNonNull(tables.get(here.getKey()))
                  .alsoOn(Set.of(there.getKey()))
                  .study("SELECT " + each.getKey() + "(name) FROM river")
                  .findings()
                  .stream()
                  .anyMatch(
                      finding ->
                          finding
                              .message()
                              .matches("(?is).* has no (function )?" + each.getKey() + "\\b.*"));
          boolean wanted = there.getValue() == Known.UNKNOWN;
          if (there.getValue() != Known.UNCLEAR && told != wanted) {
            wrong.add(each.getKey() + " from " + here.getKey() + " to " + there.getKey());
          }
          missed += told ? 1 : 0;
        }
      }
    }
    assertThat(wrong).isEmpty();
    assertThat(missed).isGreaterThan(100);
  }
}
