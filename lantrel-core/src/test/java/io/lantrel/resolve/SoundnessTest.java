package io.lantrel.resolve;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Scratch;
import io.lantrel.catalog.Catalog;
import io.lantrel.engine.Database;
import io.lantrel.engine.Engine;
import io.lantrel.engine.Limits;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.Asker;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Promises;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.testng.annotations.Test;

/**
 * No row contradicts what was inferred: keys, columns that are never NULL, numbers of partners, and
 * functional dependencies, over generated queries and data that keep the schema's promises. The
 * number of queries is the system property {@code lantrel.soundness}.
 */
public class SoundnessTest {

  private static final long SEED = 20261123;
  private static final int QUERIES = Integer.getInteger("lantrel.soundness", 300);
  private static final int QUERIES_FOR_EACH_DATA = 100;

  private int keys;
  private int neverNull;
  private int partners;
  private int dependencies;

  @Test
  public void noRowContradictsWhatWasInferred() throws IOException {
    RelationGenerator generator = new RelationGenerator(SEED);
    int done = 0;
    while (done < QUERIES) {
      SampleData data = data(generator);
      try (Database database = data.database()) {
        for (int i = 0; i < QUERIES_FOR_EACH_DATA && done < QUERIES; i++, done++) {
          check(generator.query(), data.catalog(), database);
        }
      }
    }
    // A test that inferred nothing would prove nothing.
    assertThat(keys).isGreaterThan(QUERIES / 5);
    assertThat(neverNull).isGreaterThan(QUERIES / 3);
    assertThat(partners).isGreaterThan(QUERIES / 10);
    assertThat(dependencies).isGreaterThan(QUERIES / 10);
  }

  private static SampleData data(RelationGenerator generator) throws IOException {
    Path folder = Scratch.folder("sound");
    Files.writeString(folder.resolve("schema.sql"), RelationGenerator.SCHEMA);
    for (String table : List.of("a", "b", "c", "d")) {
      Files.writeString(folder.resolve(table + ".csv"), generator.rows(table));
    }
    return SampleData.load(folder, Engine.DUCKDB, Limits.usual());
  }

  private void check(String sql, Catalog catalog, Database database) {
    Query query = SqlReader.readQuery(sql, Dialect.DUCKDB);
    Resolution resolution = Resolver.resolve(query, catalog);
    assertThat(resolution.problems()).as(sql).isEmpty();
    ResolvedQuery result = resolution.result();
    for (OutputColumn output : result.outputs()) {
      if (!result.isNullable(output)) {
        neverNull++;
        String nulls = "SELECT COUNT(*) FROM (" + sql + ") q WHERE q." + output.name() + " IS NULL";
        assertThat(count(nulls, database)).as(nulls).isZero();
      }
    }
    for (Set<Integer> key : result.keys()) {
      keys++;
      String repeated = repeated(sql, key);
      assertThat(count(repeated, database)).as(repeated).isZero();
    }
    resolution.blocks().stream()
        .filter(block -> block.standsAlone() && block.select().from() != null)
        .forEach(block -> checkJoins(sql, block, database));
  }

  /** How many values of a key come more than once. */
  private static String repeated(String sql, Set<Integer> key) {
    String columns = key.stream().map(each -> "q.c" + each).collect(Collectors.joining(", "));
    String groups = key.isEmpty() ? "" : " GROUP BY " + columns;
    return "SELECT COUNT(*) FROM (SELECT 1 AS one FROM ("
        + sql
        + ") q"
        + groups
        + " HAVING COUNT(*) > 1) r";
  }

  private static long count(String sql, Database database) {
    return database.ask(SqlReader.readQuery(sql, database.dialect())).figure(0);
  }

  private void checkJoins(String sql, QueryBlock block, Database database) {
    Asker asker = new Asker(database);
    JoinedRows rows = JoinedRows.of(block, Promises.KEYS).orElseThrow();
    for (JoinStep step : block.steps()) {
      Multiplicity right = block.partnersOnTheRight(step);
      if (right.isSingle()) {
        partners++;
        assertThat(asker.ask(rows.repeated(step).count())).as(sql + " at " + step.words()).isZero();
      }
      if (right == Multiplicity.EXACTLY_ONE) {
        Expression alone = Sql.all(List.of(rows.reached(step), rows.isAlone(step)));
        assertThat(asker.ask(Question.count(rows.attempts(step), alone)))
            .as(sql + " at " + step.words())
            .isZero();
      }
    }
    checkDependencies(sql, block, rows, asker);
  }

  /** Rows that agree in a column agree in the rows of the table uses that it determines. */
  private void checkDependencies(String sql, QueryBlock block, JoinedRows rows, Asker asker) {
    for (Conjunct conjunct : block.conjuncts()) {
      for (UseColumn column : block.columnsIn(conjunct.condition())) {
        for (TableUse use : block.determinedBy(Set.of(column))) {
          dependencies++;
          assertThat(asker.ask(differing(rows, column, use)))
              .as(sql + ": " + column.words() + " determines " + use)
              .isZero();
        }
      }
    }
  }

  /** For how many values of a column there are several rows; NULL is like NULL: no row is one. */
  private static Question<Long> differing(JoinedRows rows, UseColumn column, TableUse use) {
    JoinedRows.Kept kept = rows.kept(use);
    List<SelectItem> pairs = new ArrayList<>();
    pairs.add(Sql.as(rows.column(kept.relation(), column), "value"));
    kept.identity().forEach(each -> pairs.add(Sql.as(each, "i" + pairs.size())));
    var different = kept.relation().select(true, pairs, null, List.of(), null);
    var several =
        Sql.grouped(
            List.of(Sql.as(Sql.number(1), "one")),
            Sql.derived(different, "pairs"),
            List.of(Sql.column("pairs", "value")),
            Sql.greater(Sql.count(), Sql.number(1)));
    Query query =
        Query.of(
            Sql.select(
                List.of(Sql.as(Sql.count(), "c0")), Sql.derived(several, "differing"), null));
    return Question.numbers(kept.relation(), query, 1, answer -> answer.figure(0));
  }
}
