package io.lantrel.bench;

import io.lantrel.Lantrel;
import io.lantrel.NoLedgerException;
import io.lantrel.Study;
import io.lantrel.engine.Access;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Limits;
import io.lantrel.probe.Counting;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolver;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * What check and ledger cost: the statements they send, and their time as a multiple of counting
 * the joined rows of FROM once on the same engine; beside it, counting the rows of the whole query.
 */
public final class PriceOfAnswers {

  private static final int RUNS = 5;

  private PriceOfAnswers() {}

  /**
   * Prints a table of medians.
   *
   * @param arguments a folder with {@code world.sql}, which makes the tables, and {@code
   *     queries.sql}; further arguments replace {@code $n} in the world
   */
  public static void main(String[] arguments) throws IOException, SQLException {
    Path folder = Path.of(arguments[0]);
    Path made = Files.createTempDirectory("price");
    List<String> values = List.of(arguments).subList(1, arguments.length);
    String url = World.make(folder, made.resolve("world.duckdb"), values);
    System.out.printf(
        "%-4s %6s %9s %9s %8s %6s %5s %8s %6s %5s  %s%n",
        "",
        "joins",
        "rows ms",
        "query ms",
        "check",
        "times",
        "sent",
        "ledger",
        "times",
        "sent",
        "");
    String queries = Files.readString(folder.resolve("queries.sql"), StandardCharsets.UTF_8);
    try (Lantrel lantrel =
        Lantrel.connect(Access.to(url).within(Limits.usual().within(Duration.ofSeconds(60)))); ) {
      int number = 0;
      for (Study study : lantrel.studies(queries)) {
        number++;
        measure(number, study.sql(), lantrel);
      }
    } finally {
      clear(made);
    }
  }

  private static void measure(int number, String sql, Lantrel lantrel) {
    Query query = SqlReader.readQuery(sql, lantrel.catalog().dialect());
    QueryBlock block = Resolver.resolve(query, lantrel.catalog()).result().block().orElseThrow();
    String counting = SqlPrinter.print(joined(block), lantrel.catalog().dialect());

    String whole = SqlPrinter.print(Counting.rows(block), lantrel.catalog().dialect());
    List<Long> rows = new ArrayList<>();
    List<Long> queries = new ArrayList<>();
    List<Long> checks = new ArrayList<>();
    List<Long> ledgers = new ArrayList<>();
    long checkSent = 0;
    long ledgerSent = 0;
    String remark = "";
    for (int run = 0; run < RUNS; run++) {
      rows.add(micros(() -> lantrel.study(counting).result()));
      queries.add(micros(() -> lantrel.study(whole).result()));
      Study check = lantrel.study(sql);
      checks.add(micros(check::inspection));
      checkSent = check.statementsSent();
      Study ledger = lantrel.study(sql);
      try {
        ledgers.add(micros(ledger::ledger));
        ledgerSent = ledger.statementsSent();
      } catch (DatabaseException | NoLedgerException failure) {
        remark = String.valueOf(failure.getMessage());
      }
      if (run == 0) {
        remark +=
            check.findings().stream().map(each -> each.kind().id()).distinct().toList()
                + " "
                + String.join("; ", check.inspection().unchecked());
      }
    }
    double once = median(rows);
    System.out.printf(
        "%-4d %6d %9.1f %9.1f %8.1f %6.1f %5d %8.1f %6.1f %5d  %s%n",
        number,
        block.steps().size(),
        once / 1_000,
        median(queries) / 1_000,
        median(checks) / 1_000,
        median(checks) / once,
        checkSent,
        median(ledgers) / 1_000,
        median(ledgers) / once,
        ledgerSent,
        Pattern.compile("\\s+").matcher(remark).replaceAll(" "));
  }

  /** FROM, with what of WHERE connects the items of a comma list. */
  private static Query joined(QueryBlock block) {
    List<Expression> connecting =
        block.writtenSteps().stream()
            .flatMap(step -> step.conjuncts().stream())
            .filter(each -> each.origin() == Conjunct.Origin.WHERE)
            .map(Conjunct::condition)
            .toList();
    return Query.of(
        Sql.select(
            List.of(Sql.as(Sql.count(), "n")),
            block.select().from(),
            connecting.isEmpty() ? null : Sql.all(connecting)));
  }

  private static long micros(Runnable work) {
    long begun = System.nanoTime();
    work.run();
    return (System.nanoTime() - begun) / 1_000;
  }

  private static double median(List<Long> times) {
    return times.isEmpty() ? Double.NaN : times.stream().sorted().toList().get(times.size() / 2);
  }

  private static void clear(Path folder) throws IOException {
    List<Path> files;
    try (Stream<Path> all = Files.walk(folder)) {
      files = all.sorted((one, other) -> other.compareTo(one)).toList();
    }
    for (Path file : files) {
      Files.delete(file);
    }
  }
}
