package io.lantrel.engine;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Pattern;

/**
 * The settings in a JDBC URL. Only those are taken that are known to change nothing in the database
 * and to run nothing: drivers have others that run SQL at the start, load classes, or make a
 * database writable.
 */
final class UrlSettings {

  private static final Pattern SECRET =
      Pattern.compile("(?i).*(?:pass|pwd|secret|token|credential|apikey).*");
  private static final Pattern SECRET_BEFORE_HOST =
      Pattern.compile("//[^/@?;]*:[^/@?;]*@|:[^/:@?;]+/[^/@?;]+@");
  private static final Pattern SHOWABLE = Pattern.compile("[A-Za-z0-9_.-]{1,40}");

  private static final String TRUTH = "true|false|TRUE|FALSE|True|False";
  private static final String NUMBER = "[0-9]{1,9}";
  private static final String WORD = "[A-Za-z0-9_.+/:-]*";
  private static final String ANY = "[^;&]*";

  private static final Map<Engine, Map<String, String>> KNOWN =
      Map.of(
          Engine.POSTGRESQL,
          Map.ofEntries(
              Map.entry("user", ANY),
              Map.entry("ssl", TRUTH + "|"),
              Map.entry("sslmode", WORD),
              Map.entry("sslrootcert", ANY),
              Map.entry("sslcert", ANY),
              Map.entry("sslkey", ANY),
              Map.entry("sslnegotiation", WORD),
              Map.entry("gssencmode", WORD),
              Map.entry("channelbinding", WORD),
              Map.entry("connecttimeout", NUMBER),
              Map.entry("sockettimeout", NUMBER),
              Map.entry("logintimeout", NUMBER),
              Map.entry("tcpkeepalive", TRUTH),
              Map.entry("applicationname", ANY),
              Map.entry("currentschema", ANY),
              Map.entry("targetservertype", WORD),
              Map.entry("loadbalancehosts", TRUTH),
              Map.entry("hostrecheckseconds", NUMBER)),
          Engine.MARIADB,
          Map.of(
              "user", ANY,
              "sslmode", WORD,
              "serversslcert", ANY,
              "connecttimeout", NUMBER,
              "sockettimeout", NUMBER,
              "tcpkeepalive", TRUTH,
              "usecompression", TRUTH,
              "timezone", WORD),
          Engine.SQLITE,
          Map.of("mode", "ro", "immutable", "[01]", "cache", "private"),
          Engine.H2,
          Map.of(
              "user", ANY,
              "ifexists", "TRUE|true",
              "access_mode_data", "r",
              "schema", WORD,
              "cipher", WORD,
              "lock_timeout", NUMBER,
              "mode", "(?i)REGULAR|STRICT|LEGACY",
              "database_to_upper", TRUTH,
              "database_to_lower", TRUTH,
              "case_insensitive_identifiers", TRUTH),
          Engine.HSQLDB,
          Map.of(
              "user",
              ANY,
              "ifexists",
              "true",
              "readonly",
              "true",
              // What is opened for reading is closed without a word.
              "shutdown",
              "true",
              "get_column_name",
              TRUTH,
              "close_result",
              TRUTH),
          Engine.DUCKDB,
          Map.of("duckdb.read_only", "true", "access_mode", "(?i)read_only", "threads", NUMBER),
          Engine.TRINO,
          Map.of(
              "user", ANY,
              "ssl", TRUTH,
              "sslverification", WORD,
              "sslusesystemtruststore", TRUTH,
              "ssltruststorepath", ANY,
              "timezone", WORD,
              "source", ANY,
              "clienttags", WORD),
          Engine.OTHER,
          Map.ofEntries(
              Map.entry("user", ANY),
              Map.entry("database", ANY),
              Map.entry("databasename", ANY),
              Map.entry("servername", ANY),
              Map.entry("instance", WORD),
              Map.entry("schema", WORD),
              Map.entry("currentschema", WORD),
              Map.entry("catalog", WORD),
              Map.entry("encrypt", WORD),
              Map.entry("trustservercertificate", TRUTH),
              Map.entry("hostnameincertificate", ANY),
              Map.entry("ssl", WORD),
              Map.entry("sslmode", WORD),
              Map.entry("sslverification", WORD),
              Map.entry("applicationname", ANY),
              Map.entry("applicationintent", WORD),
              Map.entry("source", ANY),
              Map.entry("readonly", "true"),
              Map.entry("logintimeout", NUMBER),
              Map.entry("connecttimeout", NUMBER),
              Map.entry("sockettimeout", NUMBER)));

  private UrlSettings() {}

  /**
   * Refuses what is not known to be harmless; the message never holds a value.
   *
   * @throws DataException with the setting and what to do
   */
  static void check(String url, Engine engine) {
    if (SECRET_BEFORE_HOST.matcher(withoutSettings(url)).find()) {
      throw secret();
    }
    if (engine == Engine.SQLITE && url.contains(":resource:")) {
      throw new DataException("a database of SQLite is a file here, and no resource");
    }
    for (String setting : settings(url, engine)) {
      int equal = setting.indexOf('=');
      String name = equal < 0 ? setting : setting.substring(0, equal);
      String value = equal < 0 ? "" : setting.substring(equal + 1);
      check(name, value, engine);
    }
  }

  private static void check(String name, String value, Engine engine) {
    if (SECRET.matcher(name).matches()) {
      throw secret();
    }
    Map<String, String> known = KNOWN.getOrDefault(engine, Map.of());
    String allowed = known.get(name.toLowerCase(Locale.ROOT));
    if (allowed == null || !value.matches(allowed)) {
      String shown = SHOWABLE.matcher(name).matches() ? "the setting " + name : "a setting";
      throw new DataException(
          shown
              + (allowed == null
                  ? " of the URL is not among those that are known to change nothing ("
                  : " of the URL has a value that is not known to change nothing (known: ")
              + String.join(", ", known.keySet().stream().sorted().toList())
              + "); leave it out");
    }
  }

  private static DataException secret() {
    return new DataException(
        "the URL holds a password, which others can read in the list of processes; leave it out"
            + " and give it apart");
  }

  /** What may be shown of a URL. */
  static String withoutSettings(String url) {
    int end = url.length();
    for (int i = 0; i < end; i++) {
      end = url.charAt(i) == '?' || url.charAt(i) == ';' ? i : end;
    }
    return url.substring(0, end);
  }

  /** Each driver cuts in its own way; what could be a setting to any of two ways, is one. */
  private static List<String> settings(String url, Engine engine) {
    String rest = url.substring(withoutSettings(url).length());
    List<String> settings = new ArrayList<>();
    String cut =
        switch (engine) {
          case H2, HSQLDB, DUCKDB -> "[?;]";
          case POSTGRESQL, MARIADB, SQLITE, TRINO -> "[?&]";
          case OTHER -> "[?;&]";
        };
    for (String part : rest.split(cut, -1)) {
      if (!part.isEmpty()) {
        settings.add(part);
      }
    }
    return settings;
  }
}
