package io.lantrel.probe;

import io.lantrel.catalog.Table;
import io.lantrel.engine.Database;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Dialect;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Which promises of the schema the rows keep. A live database sees to keys itself; in sample data,
 * whose rows come from files, they are looked at. References are never relied on: not every product
 * sees to them, and those that do can be told not to look.
 */
public final class Promises {

  /** Every key is kept. */
  public static final Promises KEYS = new Promises(Set.of());

  private final Set<Table> broken;

  private Promises(Set<Table> broken) {
    this.broken = broken;
  }

  /** Whether every key is kept. */
  public boolean isAll() {
    return broken.isEmpty();
  }

  /** Whether no two rows of a table use share a key of it. */
  boolean hold(TableUse use) {
    return use.table().map(table -> !broken.contains(table)).orElse(broken.isEmpty());
  }

  /** What is asked to know it: nothing of a live database. */
  public static final class Test {
    private final Map<Table, List<Question<Boolean>>> questions = new LinkedHashMap<>();

    /**
     * @param blocks whose tables are meant
     */
    public Test(Database database, List<QueryBlock> blocks) {
      if (!database.isLive()) {
        blocks.stream()
            .filter(block -> !block.steps().isEmpty())
            .flatMap(block -> block.uses().stream())
            .flatMap(use -> use.table().stream())
            .forEach(table -> questions.computeIfAbsent(table, key -> of(key, database.dialect())));
      }
    }

    private static List<Question<Boolean>> of(Table table, Dialect dialect) {
      return table.keys().stream()
          .filter(key -> !key.columns().isEmpty())
          .map(key -> BrokenConstraints.key(table, key.columns(), dialect))
          .toList();
    }

    /** The questions. */
    public List<Question<?>> questions() {
      List<Question<?>> all = new ArrayList<>();
      questions.values().forEach(all::addAll);
      return all;
    }

    /** What the answers tell; of a table without an answer nothing is relied on. */
    public Promises read(Answers answers) {
      Set<Table> broken = new HashSet<>();
      questions.forEach(
          (table, asked) -> {
            if (asked.stream().anyMatch(each -> answers.ifAny(each).orElse(true))) {
              broken.add(table);
            }
          });
      return broken.isEmpty() ? KEYS : new Promises(broken);
    }
  }
}
