package io.lantrel.check.inspection;

import static java.util.Comparator.comparing;

import io.lantrel.catalog.Catalog;
import io.lantrel.check.CheckRules;
import io.lantrel.check.Evidence;
import io.lantrel.check.Finding;
import io.lantrel.check.Kind;
import io.lantrel.check.Repair;
import io.lantrel.check.Severity;
import io.lantrel.check.inspection.Examination.Concluded;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.DatabaseException;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Known;
import io.lantrel.probe.Promises;
import io.lantrel.probe.Question;
import io.lantrel.sql.Edit;
import io.lantrel.sql.ParameterValues;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.Statement;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Tries the repairs of one statement: of each finding the best one first, all of them in one round,
 * which also asks for the evidence; then the next best of those that did not hold.
 */
final class Repairs {

  /**
   * All that is tried of one statement has so many joins at most, but for one repair that is tried
   * always: to plan them takes the longest.
   */
  private static final int MOST_JOINS = 256;

  private final SourceText source;
  private final Statement statement;
  private final Examination before;
  private final Catalog catalog;
  private final @Nullable Asker asker;
  private final Promises keys;
  private final ParameterValues values;
  private final CheckRules rules;
  private final Map<Concluded, Repair> held = new IdentityHashMap<>();
  private final Set<Concluded> leftOut = Collections.newSetFromMap(new IdentityHashMap<>());
  private @Nullable Known known;
  private int tried;
  private Answers evidence = new Answers();

  /**
   * @param asker null if nothing can be run
   */
  Repairs(
      SourceText source,
      Statement statement,
      Examination before,
      Catalog catalog,
      @Nullable Asker asker,
      Promises keys,
      ParameterValues values,
      CheckRules rules) {
    this.source = source;
    this.statement = statement;
    this.before = before;
    this.catalog = catalog;
    this.asker = asker;
    this.keys = keys;
    this.values = values;
    this.rules = rules;
  }

  /** A changed statement that is to be looked at. */
  private record Trial(
      Concluded concluded, List<Edit> edits, List<Edit> all, String sql, Examination after) {}

  /** The findings alone, where nothing that resembles the statement would run either. */
  List<Finding> untried(List<Concluded> concluded) {
    return concluded.stream().map(this::finding).toList();
  }

  /** The findings with their evidence and the repairs that hold. */
  List<Finding> findings(List<Concluded> concluded) {
    int most = concluded.stream().mapToInt(each -> repairs(each).size()).max().orElse(0);
    for (int next = 0; next < Math.max(1, most); next++) {
      List<Trial> trials = trials(concluded, next);
      List<Question<?>> questions = new ArrayList<>();
      if (next == 0) {
        concluded.forEach(each -> questions.addAll(each.conclusion().questions()));
        questions.addAll(trials.isEmpty() || asker == null ? List.of() : before.counting());
      }
      trials.forEach(each -> questions.addAll(questions(each)));
      Answers answers = ask(questions);
      if (next == 0) {
        evidence = answers;
        before.readCount(answers);
      }
      trials.forEach(each -> judge(each, answers));
    }
    return untried(concluded);
  }

  /** Asks for what is not known of the statement as it was, or from the rounds before. */
  private Answers ask(List<Question<?>> questions) {
    if (asker == null || questions.isEmpty()) {
      return new Answers();
    }
    if (known == null) {
      known = new Known(asker.database().dialect());
      known.add(before.answered());
    }
    return asker.ask(questions, known);
  }

  private static List<Question<?>> questions(Trial trial) {
    return isProven(trial.concluded()) ? trial.after().counting() : trial.after().questions(true);
  }

  /** Whether another warning is this one, at the place to which the edits moved it. */
  private boolean isTold(Suspicion suspicion, Concluded repaired, List<Edit> edits) {
    return warnings()
        .anyMatch(
            earlier ->
                !earlier.equals(repaired)
                    && earlier.kind() == suspicion.kind()
                    && moved(earlier, edits).isSame(suspicion.place()));
  }

  private Stream<Concluded> warnings() {
    return before.concluded().stream()
        .filter(each -> each.conclusion().severity() != Severity.NOTE);
  }

  private static List<List<Edit>> repairs(Concluded concluded) {
    return concluded.conclusion().repairs();
  }

  private List<Trial> trials(List<Concluded> concluded, int next) {
    List<Trial> trials = new ArrayList<>();
    int most = mostTrials();
    List<Concluded> gravestFirst =
        concluded.stream()
            .sorted(comparing((Concluded each) -> each.conclusion().severity()).reversed())
            .toList();
    for (Concluded each : gravestFirst) {
      if (held.containsKey(each) || next >= repairs(each).size()) {
        continue;
      }
      if (tried + trials.size() < most) {
        trial(each, repairs(each).get(next)).ifPresent(trials::add);
      } else {
        leftOut.add(each);
      }
    }
    tried += trials.size();
    return trials;
  }

  /** How many repairs are tried: of a statement of very many joins only one. */
  private int mostTrials() {
    return MOST_JOINS / Math.min(MOST_JOINS, Math.max(1, joins()));
  }

  private int joins() {
    return before.blocks().stream().mapToInt(block -> block.steps().size()).sum();
  }

  /** The changed statement, if it is still a query and its names all mean something. */
  private Optional<Trial> trial(Concluded concluded, List<Edit> edits) {
    int start = statement.span().start();
    List<Edit> all = together(concluded, edits);
    if (movesUnnamed(all)) {
      return Optional.empty();
    }
    List<Edit> within = all.stream().map(edit -> edit.shifted(-start)).toList();
    if (Edit.overlap(within)) {
      return Optional.empty();
    }
    String changed = Edit.apply(source.at(statement.span()), within);
    SourceText text = new SourceText(changed);
    List<Statement> statements = SqlReader.read(text, catalog.dialect());
    if (statements.size() != 1 || !(statements.get(0) instanceof Statement.QueryStatement)) {
      return Optional.empty();
    }
    Examination after = new Examination(text, statements.get(0), catalog, keys, values, rules);
    if (after.hasErrors()) {
      return Optional.empty();
    }
    if (!isProven(concluded)) {
      after.takeAsTold(suspicion -> isTold(suspicion, concluded, within));
    }
    return Optional.of(new Trial(concluded, edits, within, changed, after));
  }

  /** A parameter without a name is known by its place among the others: it must stay there. */
  private boolean movesUnnamed(List<Edit> edits) {
    return !values.names().isEmpty()
        && edits.stream()
            .anyMatch(edit -> edit.text().contains("?") || source.at(edit.span()).contains("?"));
  }

  /**
   * With several errors no single repair makes the query run, so the others are mended along: each
   * by its first repair, unless that touches the same characters.
   */
  private List<Edit> together(Concluded concluded, List<Edit> edits) {
    List<Edit> all = new ArrayList<>(edits);
    if (concluded.isError()) {
      before.concluded().stream()
          .filter(other -> !other.equals(concluded) && !repairs(other).isEmpty())
          .map(other -> repairs(other).get(0))
          .filter(other -> other.stream().noneMatch(edit -> touchesAny(edit, all)))
          .forEach(all::addAll);
    }
    return all;
  }

  private static boolean touchesAny(Edit edit, List<Edit> others) {
    return others.stream()
        .map(Edit::span)
        .anyMatch(span -> edit.span().start() <= span.end() && span.start() <= edit.span().end());
  }

  /**
   * Whether the text alone tells that a repair keeps the rows: then it is only run, which is the
   * cheapest there is.
   */
  private static boolean isProven(Concluded concluded) {
    return concluded.conclusion().severity() == Severity.NOTE
        && concluded.kind().needs() == Kind.Needs.TREE;
  }

  private void judge(Trial trial, Answers answers) {
    Examination after = trial.after();
    boolean runs = asker != null && after.openParameter().isEmpty();
    if (runs && isProven(trial.concluded())) {
      after.readCount(answers);
      after.concludeWithoutRows();
    } else if (runs) {
      after.conclude(answers, true);
    } else {
      after.concludeWithoutRows();
    }
    boolean holds =
        isBetter(trial) && (!runs || after.rows().isPresent()) && (!runs || isTaken(after));
    if (holds) {
      held.put(
          trial.concluded(), new Repair(trial.edits(), trial.sql(), before.rows(), after.rows()));
    }
  }

  /** Counting its rows leaves out their order, which can be wrong as well. */
  private boolean isTaken(Examination after) {
    return asker == null
        || after
            .runnable()
            .filter(query -> !query.orderBy().isEmpty())
            .flatMap(query -> asker.database().refusal(query))
            .isEmpty();
  }

  /**
   * The finding must be gone. Behind an error nothing else is checked, so warnings that appear once
   * it is gone were there all the time; behind a warning no other warning or error may appear.
   */
  private boolean isBetter(Trial trial) {
    List<Concluded> now = trial.after().concluded();
    boolean gone = now.stream().noneMatch(each -> isSame(trial.concluded(), each, trial.all()));
    boolean nothingNew =
        now.stream()
            .filter(each -> each.conclusion().severity() != Severity.NOTE)
            .allMatch(each -> warnings().anyMatch(earlier -> isSame(earlier, each, trial.all())));
    return gone && (trial.concluded().isError() || isProven(trial.concluded()) || nothingNew);
  }

  /** Whether two findings are one: of the same kind, at the place to which the edits moved it. */
  private boolean isSame(Concluded earlier, Concluded now, List<Edit> edits) {
    Span moved = moved(earlier, edits);
    return earlier.kind() == now.kind()
        && moved.start() <= now.place().end()
        && now.place().start() <= moved.end();
  }

  private Span moved(Concluded earlier, List<Edit> edits) {
    int start = statement.span().start();
    Span place = new Span(earlier.place().start() - start, earlier.place().end() - start);
    return Edit.moved(place, edits);
  }

  private Finding finding(Concluded concluded) {
    Conclusion conclusion = concluded.conclusion();
    Evidence shown = evidence(conclusion);
    return new Finding(
        concluded.kind(),
        conclusion.severity(),
        conclusion.message(),
        concluded.place(),
        leftOut.contains(concluded) ? shown.and(notTried()) : shown,
        Optional.ofNullable(held.get(concluded)));
  }

  private String notTried() {
    return "with %s joins in the statement, no more repairs were tried than %s"
        .formatted(joins(), mostTrials());
  }

  private Evidence evidence(Conclusion conclusion) {
    try {
      return conclusion.evidence().apply(evidence);
    } catch (DatabaseException failure) {
      return Evidence.facts(List.of("the rows that show it were not got: " + failure.getMessage()));
    }
  }
}
