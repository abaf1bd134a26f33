package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.engine.Access;
import io.lantrel.engine.DataException;
import io.lantrel.engine.Engine;
import io.lantrel.engine.Limits;
import io.lantrel.engine.StatementWatcher;
import io.lantrel.report.Visible;
import java.io.Console;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** The tables that queries are about: sample data, a live database, or a schema alone. */
final class TablesOption {

  /** Where the password is looked for; never among the options, which every process can read. */
  private static final String PASSWORD = "LANTREL_PASSWORD";

  private static final Pattern SIZE = Pattern.compile("([0-9]{1,7})([mMgG])[bB]?");

  @Spec(Spec.Target.MIXEE)
  private CommandSpec spec = CommandSpec.create();

  @Option(
      names = "--data",
      paramLabel = "DIR",
      description = "Folder with schema.sql and one CSV file for each table.")
  private List<Path> data = List.of();

  @Option(
      names = "--db",
      paramLabel = "URL",
      description =
          "A database of yours, by its JDBC URL, as jdbc:postgresql://host/name; it is only read.")
  private List<String> urls = List.of();

  @Option(
      names = "--schema",
      paramLabel = "FILE.sql",
      description =
          "A schema alone, without rows: nothing is run, and only what needs no rows is checked.")
  private @Nullable Path schema;

  @Option(
      names = "--references",
      paramLabel = "FILE.sql",
      description =
          "References and keys that the tables do not declare, as ALTER TABLE … ADD FOREIGN KEY …,"
              + " ADD PRIMARY KEY or ADD UNIQUE; they are only read, looked at, and believed like"
              + " declared ones.")
  private @Nullable Path references;

  @Option(
      names = "--engine",
      paramLabel = "NAME",
      completionCandidates = EngineNames.class,
      description =
          "The engine that the queries are written for: ${COMPLETION-CANDIDATES}; default: duckdb."
              + " Sample data is loaded into it, or into duckdb if it is a server.")
  private @Nullable String engine;

  @Option(
      names = "--user",
      paramLabel = "NAME",
      description =
          "Who connects to --db; the password is taken from the environment variable "
              + PASSWORD
              + ", or asked for.")
  private @Nullable String user;

  @Option(
      names = "--timeout",
      paramLabel = "SECONDS",
      description =
          "How long the database may work on one statement and all questions about it;"
              + " default: 60.")
  private @Nullable Integer timeout;

  @Option(
      names = "--memory",
      paramLabel = "SIZE",
      description =
          "How much memory an engine that runs within the program may use, as 500M or 4G; default:"
              + " a quarter of the machine's. It spills to disk then. H2 and HSQLDB live in Java's"
              + " memory instead.")
  private @Nullable String memory;

  @Option(
      names = "--allow-function",
      paramLabel = "NAME",
      description =
          "A function (or view, operator, type) that you know to change nothing, and that Lantrel"
              + " does not know; can be given several times.")
  private List<String> allowed = List.of();

  @Option(
      names = "--statements",
      paramLabel = "FILE.sql",
      description =
          "Writes every statement that the database is sent into this file, with its time.")
  private @Nullable Path statements;

  private @Nullable StatementWatcher watcher;

  /** Opens what the options say; Ctrl-C then stops what the database is at work on. */
  Lantrel open() {
    if (data.size() > 1 || urls.size() > 1) {
      throw wrong((data.size() > 1 ? "--data" : "--db") + " can be given once");
    }
    return one();
  }

  /**
   * Opens one or two places with rows, in the order sample data, databases; whoever asks closes
   * them.
   */
  List<Lantrel> openUpToTwo() {
    if (schema != null) {
      throw wrong("a schema alone has no rows; give --data DIR or --db URL");
    }
    if (data.size() + urls.size() > 2) {
      throw wrong("two places can be compared: --data and --db can be given twice in all");
    }
    if (data.size() + urls.size() < 2) {
      return List.of(one());
    }
    Lantrel first = data.isEmpty() ? connect(urls.get(0)) : load(data.get(0));
    try {
      Lantrel second =
          data.size() == 2 ? load(data.get(1)) : connect(urls.get(data.isEmpty() ? 1 : 0));
      return List.of(first, second);
    } catch (RuntimeException failure) {
      first.close();
      throw failure;
    }
  }

  /** What the places of {@link #openUpToTwo} are called. */
  List<String> placeNames() {
    List<String> names = new ArrayList<>();
    data.forEach(folder -> names.add(folder.toString()));
    urls.forEach(url -> names.add(accessTo(url).shown()));
    return names;
  }

  /**
   * A place with tables.
   *
   * @param name what it is called
   * @param lantrel its tables
   */
  record Opened(String name, Lantrel lantrel) {}

  /** Whether the options say where the tables are. */
  boolean isGiven() {
    return !data.isEmpty() || !urls.isEmpty() || schema != null;
  }

  /**
   * Every place that the options name: sample data in each engine, then databases. Whoever asks
   * closes them.
   *
   * @param folder sample data that are used if the options name no place; null for none
   * @param usual the engines if the options name none
   */
  List<Opened> openAll(@Nullable Path folder, List<String> usual) {
    if (!isGiven() && folder == null) {
      throw new DataException(
          "where are the tables? Give --data DIR or --db URL, or put the query into a folder with"
              + " sample data");
    }
    List<Opened> opened = new ArrayList<>();
    try {
      if (schema != null) {
        return List.of(new Opened(schema.toString(), one()));
      }
      List<Path> folders = isGiven() ? data : List.of(Objects.requireNonNull(folder));
      List<String> engines = engine == null ? usual : List.of(engine.strip().split("\\s*,\\s*"));
      for (Path each : folders) {
        for (String name : engines) {
          Engine in = EngineNames.engine(name, spec);
          Lantrel lantrel = noted(Interrupt.stops(Lantrel.open(each, in, limits())));
          opened.add(new Opened(engines.size() > 1 ? in.id() : each.toString(), lantrel));
        }
      }
      for (String url : urls) {
        opened.add(new Opened(accessTo(url).shown(), connect(url)));
      }
      return opened;
    } catch (RuntimeException failure) {
      opened.forEach(each -> each.lantrel().close());
      throw failure;
    }
  }

  /** What the options say, if it is one place. */
  private Lantrel one() {
    int ways = data.size() + urls.size() + (schema == null ? 0 : 1);
    if (ways == 0) {
      throw wrong(
          "where are the tables? Give --data DIR for sample data, --db URL for a database, or"
              + " --schema FILE.sql");
    }
    if (ways > 1) {
      throw wrong("of --data, --db and --schema only one can be given");
    }
    if (schema != null) {
      requireDatabaseForUser();
      return noted(Lantrel.openSchema(schema, engine().dialect()));
    }
    return data.isEmpty() ? connect(urls.get(0)) : load(data.get(0));
  }

  private void requireDatabaseForUser() {
    if (urls.isEmpty() && user != null) {
      throw wrong("--user goes with --db");
    }
  }

  private Lantrel load(Path folder) {
    requireDatabaseForUser();
    return noted(Interrupt.stops(Lantrel.openFor(engine(), folder, limits())));
  }

  private Lantrel connect(String url) {
    if (engine != null && data.isEmpty()) {
      throw wrong("--engine goes with --data and --schema; the URL of --db tells the engine");
    }
    return noted(Interrupt.stops(Lantrel.connect(access(url))));
  }

  /** Tells its notes, and has findings judged as the working directory says. */
  private Lantrel noted(Lantrel opened) {
    Lantrel lantrel = knowingMore(watched(opened));
    lantrel.judgingBy(CheckSettings.around(Path.of("")));
    lantrel
        .notes()
        .forEach(
            note -> spec.commandLine().getErr().println("lantrel: note: " + Visible.line(note)));
    return lantrel;
  }

  /** With what is sent told; closed if that cannot be. */
  private Lantrel watched(Lantrel lantrel) {
    try {
      return lantrel.watchedBy(watcher());
    } catch (RuntimeException failure) {
      lantrel.close();
      throw failure;
    }
  }

  /** One for all places. */
  private StatementWatcher watcher() {
    if (watcher == null) {
      StatusLine line = StatusLine.onTerminal(spec.commandLine().getErr());
      StatementWatcher slow = line.isShown() ? new SlowStatement(line) : StatementWatcher.NONE;
      watcher = statements == null ? slow : StatementFile.begun(statements).and(slow);
    }
    return watcher;
  }

  /** With the references of {@code --references}; closed if these cannot be read. */
  private Lantrel knowingMore(Lantrel lantrel) {
    if (references == null) {
      return lantrel;
    }
    try {
      return lantrel.withReferences(references);
    } catch (RuntimeException failure) {
      lantrel.close();
      throw failure;
    }
  }

  /** The limits if nothing is said. */
  static Limits usual() {
    return Limits.usual().spillingInto(Path.of(System.getProperty("java.io.tmpdir")));
  }

  private Limits limits() {
    Limits limits = usual();
    if (timeout != null) {
      if (timeout < 1) {
        throw wrong("--timeout takes a whole number of seconds from 1 on, not " + timeout);
      }
      limits = limits.within(Duration.ofSeconds(timeout));
    }
    if (memory != null) {
      limits = limits.withMemory(bytes(memory));
    }
    for (String name : allowed) {
      limits = limits.allowing(name);
    }
    return limits;
  }

  private long bytes(String size) {
    Matcher parts = SIZE.matcher(size);
    long bytes =
        parts.matches()
            ? Long.parseLong(parts.group(1)) << (parts.group(2).equalsIgnoreCase("G") ? 30 : 20)
            : 0;
    if (bytes < 32L << 20) {
      throw wrong("--memory takes a size from 32M on, as 500M or 4G, not " + size);
    }
    return bytes;
  }

  /**
   * The same tables in another engine: with the sample data, if it runs within the program; else
   * without rows.
   */
  Lantrel openIn(Engine other, Lantrel here) {
    return !data.isEmpty() && other.isEmbedded()
        ? watched(Lantrel.open(data.get(0), other, limits()))
        : here.tablesAlone(other.dialect());
  }

  /** A folder as the tables here are read; whoever asks closes it. */
  Lantrel openLike(Lantrel here, Path folder) {
    Engine engine =
        Engine.of(here.catalog().dialect().id())
            .filter(each -> each != Engine.OTHER)
            .orElse(Engine.DUCKDB);
    return watched(Interrupt.stops(Lantrel.openFor(engine, folder, limits())))
        .judgingBy(CheckSettings.around(Path.of("")));
  }

  /** The same, but not a schema alone. */
  Lantrel openWithRows() {
    if (schema != null) {
      throw wrong("a schema alone has no rows; give --data DIR or --db URL");
    }
    return open();
  }

  private Engine engine() {
    return engine == null ? Engine.DUCKDB : EngineNames.engine(engine, spec);
  }

  private Access accessTo(String target) {
    try {
      return Access.to(target);
    } catch (DataException unfit) {
      throw wrong("--db: " + unfit.getMessage());
    }
  }

  private Access access(String target) {
    Access access = accessTo(target);
    if (user != null) {
      access = access.as(user, password(user));
    }
    return access.within(limits());
  }

  @SuppressWarnings("SystemConsoleNull") // the launcher asks newer Javas for the console of old
  private static @Nullable String password(String name) {
    String known = System.getenv(PASSWORD);
    if (known != null) {
      return known;
    }
    Console console = System.console();
    if (console == null) {
      return null;
    }
    char[] typed = console.readPassword("Password of %s: ", name);
    return typed == null || typed.length == 0 ? null : new String(typed);
  }

  private ParameterException wrong(String message) {
    return new ParameterException(spec.commandLine(), message);
  }
}
