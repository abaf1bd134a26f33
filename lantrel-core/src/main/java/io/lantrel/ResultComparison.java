package io.lantrel;

import io.lantrel.compare.CompareOptions;
import io.lantrel.compare.Comparison;
import io.lantrel.compare.Differences;
import io.lantrel.compare.Verdict;
import io.lantrel.compare.proof.Proof;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.ValueText;
import io.lantrel.rewrite.Caveat;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.rewrite.Rewritten;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.stream.Stream;

/** Runs a query as it was and in its new form, and compares the rows. */
final class ResultComparison {

  private static final CompareOptions OPTIONS =
      CompareOptions.USUAL
          .inAnyOrder()
          .byRowsAlone()
          .showing(1)
          .called("the query as it was", "its new form");

  private final Lantrel before;
  private final Lantrel now;
  private final List<String> remarks = new ArrayList<>();

  /**
   * @param before where the query runs as it was
   * @param now where it runs in its new form: the same, or the same rows in another database
   */
  ResultComparison(Lantrel before, Lantrel now) {
    this.before = before;
    this.now = now;
  }

  /** Nothing is run where there are no rows, or nothing was changed for the same database. */
  Rewriting of(String has, String sql, Rewritten rewritten) {
    String after = rewritten.sql();
    boolean untouched = before == now && after.equals(sql);
    Optional<String> hindrance = untouched ? Optional.empty() : hindrance(sql);
    if (untouched || hindrance.isPresent()) {
      hindrance.ifPresent(remarks::add);
      rewritten.caveats().forEach(caveat -> remarks.add(caveat.words()));
      return new Rewriting(
          has,
          sql,
          after,
          OptionalLong.empty(),
          Optional.empty(),
          untouched ? Optional.empty() : provenFor(sql, after),
          remarks);
    }
    Study old = before.study(sql);
    Study fresh = now.study(after);
    Comparison comparison = old.compare(fresh, OPTIONS);
    boolean undecided = comparison.verdict() == Verdict.UNDECIDED;
    if (undecided) {
      whatDoesNotRun(sql, after, comparison);
    }
    Optional<String> difference = difference(comparison);
    for (Caveat caveat : rewritten.caveats()) {
      remarks.add(caveat.words());
      if (difference.isEmpty()) {
        madeUp(caveat, fresh).ifPresent(remarks::add);
      }
    }
    return new Rewriting(
        has,
        sql,
        after,
        undecided || difference.isPresent() ? OptionalLong.empty() : comparison.second(),
        difference,
        difference.isPresent() ? Optional.empty() : provenFor(sql, after),
        remarks);
  }

  /** Why the two cannot be run. */
  private Optional<String> hindrance(String sql) {
    if (!before.hasRows()) {
      return Optional.of("there are no rows here, so it was not run");
    }
    if (!now.hasRows()) {
      return Optional.of("no database of the other product is at hand, so it was not run");
    }
    return before.isOpen(sql)
        ? Optional.of("it has parameters without values, so it was not run")
        : Optional.empty();
  }

  /** For which data the two are the same, if that can be proven and what it rests on holds here. */
  private Optional<String> provenFor(String sql, String after) {
    if (before != now) {
      return Optional.empty();
    }
    return before
        .reading(sql)
        .flatMap(one -> before.reading(after).flatMap(other -> Proof.of(one, other)))
        .filter(proof -> before.broken(proof.constraints()).isEmpty())
        .map(Proof::data);
  }

  private void whatDoesNotRun(String sql, String after, Comparison comparison) {
    Optional<String> refusedBefore = refusal(before, sql);
    Optional<String> refused = refusal(now, after);
    if (refused.isPresent()) {
      throw new RewriteException(
          now.engine()
              + " does not take it in that form"
              + (refusedBefore.isEmpty() ? "" : ", and did not as it was")
              + ": "
              + refused.get());
    }
    remarks.add(
        refusedBefore.isEmpty()
            ? "the rows were not compared: " + comparison.reason()
            : "as it was, "
                + before.engine()
                + " does not run it, so that there is nothing to compare; now it gives "
                + Words.count(now.study(after).rows(0).count(), "row"));
  }

  private static Optional<String> refusal(Lantrel place, String sql) {
    try {
      place.study(sql).result(1);
      return Optional.empty();
    } catch (DatabaseException refused) {
      if (refused.isFatal()) {
        throw refused;
      }
      return Optional.of(String.valueOf(refused.getMessage()));
    }
  }

  /** What the form that minds such rows gives if there is one. */
  private Optional<String> madeUp(Caveat caveat, Study fresh) {
    if (caveat.example().isEmpty()) {
      return Optional.empty();
    }
    Comparison with = before.study(caveat.example()).compare(fresh, OPTIONS);
    return with.differences().stream()
        .flatMap(differences -> differences.lone().stream())
        .filter(row -> row.second() > row.first())
        .findFirst()
        .map(
            row ->
                "made up: with "
                    + caveat.row()
                    + ", NOT IN gives "
                    + with.first().orElse(0)
                    + " in place of "
                    + with.second().orElse(0)
                    + " rows; not among them: "
                    + ValueText.row(row.values()));
  }

  private static Optional<String> difference(Comparison comparison) {
    if (comparison.verdict() != Verdict.DIFFERENT) {
      return comparison.headings().stream().findFirst();
    }
    Optional<Differences> differences = comparison.differences();
    Stream<String> lone =
        differences.stream()
            .flatMap(each -> each.lone().stream())
            .map(
                row ->
                    (row.first() > row.second() ? "only before: " : "only now: ")
                        + ValueText.row(row.values()));
    Stream<String> changes =
        differences.stream()
            .flatMap(each -> each.changes().stream())
            .map(
                each ->
                    "before: "
                        + ValueText.row(each.first())
                        + "; now: "
                        + ValueText.row(each.second()));
    return Stream.concat(lone, changes).findFirst().or(() -> Optional.of(comparison.reason()));
  }
}
