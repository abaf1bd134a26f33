package io.lantrel.sample.asked;

import io.lantrel.catalog.Table;
import io.lantrel.engine.DatabaseException;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Question;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Searches for rows, side by side: what all of them ask in a round goes together. */
final class Searches {

  private final Asker asker;

  /** What the database did not answer; the rest is found. */
  private final Set<String> failures = new LinkedHashSet<>();

  Searches(Asker asker) {
    this.asker = asker;
  }

  /**
   * A search.
   *
   * @param table where it looks
   * @param begin its first round
   */
  record Search(Table table, Round begin) {}

  /** What they find, in their order. */
  List<Pick> picks(List<Search> all) {
    List<List<Pick>> picks = new ArrayList<>();
    List<@Nullable Round> open = new ArrayList<>();
    for (Search each : all) {
      picks.add(new ArrayList<>());
      open.add(each.begin());
    }
    while (open.stream().anyMatch(each -> each != null)) {
      List<Question<?>> questions = new ArrayList<>();
      open.forEach(each -> questions.addAll(each == null ? List.of() : each.questions()));
      Answers answers = asker.ask(questions);
      for (int i = 0; i < all.size(); i++) {
        Round round = open.get(i);
        Round.Found found = round == null ? null : read(all.get(i).table(), round, answers);
        if (found != null) {
          picks.get(i).addAll(found.picks());
        }
        open.set(i, found == null ? null : found.next());
      }
    }
    return picks.stream().flatMap(List::stream).toList();
  }

  private Round.@Nullable Found read(Table table, Round round, Answers answers) {
    try {
      return round.reader().apply(answers);
    } catch (DatabaseException failure) {
      if (failure.isFatal()) {
        throw failure;
      }
      failures.add("not all of " + table.name() + " was looked at: " + failure.getMessage());
      return null;
    }
  }

  /** What was not found out, in sentences without their stop. */
  Set<String> failures() {
    return failures;
  }
}
