package io.lantrel.claim.asked;

import io.lantrel.claim.kinds.Outcome;
import io.lantrel.claim.kinds.Subject;
import io.lantrel.engine.Database;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.Naming;
import io.lantrel.ledger.account.LedgerMaker;
import io.lantrel.probe.Obstacle;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** At which steps of its account a query lost or repeated rows of a table. */
final class Blame {

  private final Database database;
  private final Optional<QueryBlock> block;
  private @Nullable Ledger ledger;

  /**
   * @param block the query; empty if it has no account step by step
   */
  Blame(Database database, Optional<QueryBlock> block) {
    this.database = database;
    this.block = block.filter(each -> each.isAccountable() && Obstacle.of(each).isEmpty());
  }

  /** The steps in words, numbered as those of {@code rows}; empty if none is to blame. */
  Optional<String> words(Outcome.Fault fault) {
    if (block.isEmpty() || fault.subject().path().isEmpty()) {
      return Optional.empty();
    }
    if (ledger == null) {
      ledger = new LedgerMaker(database, Naming.some(0)).make(block.get());
    }
    TableUse use = block.get().uses().get(fault.subject().path().get(0));
    Set<TableUse> fixed = block.get().determinedBy(key(use, fault.subject()));
    List<String> steps = new ArrayList<>();
    int joins = 0;
    for (int i = 0; i < ledger.entries().size(); i++) {
      Entry entry = ledger.entries().get(i);
      @Nullable JoinStep step =
          entry.kind() == Entry.Kind.JOIN ? block.get().steps().get(joins++) : null;
      long rows = fault.repeated() ? repeated(entry, step, use, fixed) : lost(entry, step, use);
      if (rows != 0) {
        steps.add(
            (step == null ? "by " : "at step " + (i + 1) + ", ")
                + entry.words()
                + (rows > 0 ? " (" + Words.rows(rows) + ")" : ""));
      }
    }
    return steps.isEmpty()
        ? Optional.empty()
        : Optional.of((fault.repeated() ? "repeated " : "lost ") + Words.list(steps));
  }

  private static Set<UseColumn> key(TableUse use, Subject subject) {
    Set<UseColumn> key = new HashSet<>();
    use.columns().stream()
        .filter(column -> subject.key().columns().contains(column.tableColumn()))
        .forEach(key::add);
    return key;
  }

  /**
   * Rows that a step repeats, if it joins what the table's row does not fix; -1 if their number is
   * not known, since the table comes with that step.
   */
  private static long repeated(
      Entry entry, @Nullable JoinStep step, TableUse use, Set<TableUse> fixed) {
    if (step == null) {
      return 0;
    }
    boolean comes = step.right().contains(use);
    List<TableUse> others = comes ? step.left() : step.right();
    return fixed.containsAll(others) ? 0 : comes ? -1 : entry.rows(Figure.REPEATED);
  }

  private static long lost(Entry entry, @Nullable JoinStep step, TableUse use) {
    if (step == null) {
      return entry.rows(Figure.DROPPED) + entry.rows(Figure.CUT);
    }
    return step.left().contains(use)
        ? entry.rows(Figure.DROPPED)
        : step.right().contains(use) ? entry.rows(Figure.UNUSED) : 0;
  }
}
