package io.lantrel.ledger.account;

import io.lantrel.engine.NamedRow;
import io.lantrel.ledger.Cause;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Question;
import io.lantrel.probe.Reason;
import io.lantrel.probe.ReasonWords;
import io.lantrel.probe.Sql;
import io.lantrel.probe.Unmatched;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** The rows of one side of a step that have no partner: how many, why, and some by name. */
final class SideAccount {

  private final Unmatched unmatched;
  private final ReasonWords words;
  private final int examples;
  private final boolean early;
  private final Map<Reason, Question<Long>> figures = new EnumMap<>(Reason.class);
  private final Map<Reason, Question<List<NamedRow>>> names = new EnumMap<>(Reason.class);
  private final Map<Reason, Long> rows = new EnumMap<>(Reason.class);
  private long untold;

  /**
   * @param examples how many rows are named for each reason
   * @param early whether rows that show why themselves are picked out before the join, since those
   *     that have no partner are not looked at anyway
   */
  SideAccount(Unmatched unmatched, ReasonWords words, int examples, boolean early) {
    this.unmatched = unmatched;
    this.words = words;
    this.examples = examples;
    this.early = early;
  }

  /** How many there are. */
  Question<Long> total() {
    return unmatched.count();
  }

  /** All reasons but the last, which the rest has. */
  private List<Reason> told() {
    List<Reason> reasons = unmatched.reasons();
    return reasons.subList(0, reasons.size() - 1);
  }

  /** Whether the reasons can be told from the rows themselves, without a look at the other side. */
  boolean isEasilyTold() {
    return !unmatched.reasons().contains(Reason.FURTHER_CONDITION);
  }

  /** For what reason how many of them lack a partner, as far as that must be asked. */
  List<Question<?>> figures() {
    for (Reason reason : told()) {
      figures.put(
          reason,
          early ? unmatched.countEarly(reason) : unmatched.count(reason, relation -> Sql.always()));
    }
    return List.copyOf(figures.values());
  }

  /**
   * Takes the answers to {@link #figures}.
   *
   * @param total how many rows have no partner
   */
  void read(Answers answers, long total) {
    long rest = total;
    untold = 0;
    for (Map.Entry<Reason, Question<Long>> each : figures.entrySet()) {
      Optional<Long> count = answers.ifAny(each.getValue());
      if (count.isEmpty()) {
        rows.clear();
        untold = total;
        return;
      }
      rows.put(each.getKey(), count.get());
      rest -= count.get();
    }
    rows.put(unmatched.reasons().get(unmatched.reasons().size() - 1), rest);
  }

  /** Whether all of so many lack a partner only since they refer to none. */
  boolean allAreEmpty(long total) {
    return total == 0 || rows.getOrDefault(Reason.EMPTY_REFERENCE, 0L) == total;
  }

  /** Some of them by name, for each reason that any has. */
  List<Question<?>> names() {
    List<Question<?>> asked = new ArrayList<>();
    rows.forEach(
        (reason, count) -> {
          if (count > 0 && examples > 0) {
            names.put(reason, unmatched.joinedNames(reason, examples));
          }
        });
    asked.addAll(names.values());
    return asked;
  }

  /** All of it, with the answers to {@link #names}. */
  List<Cause> causes(Answers answers) {
    List<Cause> causes = new ArrayList<>();
    if (untold > 0) {
      causes.add(new Cause("the database did not tell why", untold, List.of()));
    }
    rows.forEach(
        (reason, count) -> {
          if (count > 0) {
            Question<List<NamedRow>> asked = names.get(reason);
            Optional<List<NamedRow>> named =
                asked == null ? Optional.of(List.of()) : answers.ifAny(asked);
            String untoldNames = named.isPresent() ? "" : "; the database did not tell which";
            causes.add(
                new Cause(words.of(reason, count) + untoldNames, count, named.orElse(List.of())));
          }
        });
    return causes;
  }
}
