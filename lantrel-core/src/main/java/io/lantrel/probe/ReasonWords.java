package io.lantrel.probe;

import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/** Says in the user's names why rows of one side of a join have no partner. */
public final class ReasonWords {

  private final QueryBlock block;
  private final JoinStep step;
  private final boolean left;
  private final List<TableUse> side;
  private final List<Equated> equalities;

  /**
   * @param left whether the rows are those of the left side
   */
  public ReasonWords(QueryBlock block, JoinStep step, boolean left) {
    this.block = block;
    this.step = step;
    this.left = left;
    this.side = left ? step.left() : step.right();
    this.equalities =
        step.conjuncts().stream()
            .map(Conjunct::equality)
            .flatMap(Optional::stream)
            .filter(each -> side.contains(each.left().use()) != side.contains(each.right().use()))
            .toList();
  }

  /**
   * The reason in words.
   *
   * @param rows how many rows have it
   */
  public String of(Reason reason, long rows) {
    String verb = equalities.size() == 1 ? " is" : " are";
    return switch (reason) {
      case ALREADY_FILLED -> ourColumns(" and ") + verb + " NULL since " + filling() + " filled it";
      case EMPTY_REFERENCE -> ourColumns(" or ") + " is empty";
      case FURTHER_CONDITION -> "a partner is there, but " + further() + " is not true";
      case NO_PARTNER -> noPartner(rows);
    };
  }

  /** By the numbers of the account: the first table is step 1. */
  private String filling() {
    TableUse subject = ours(equalities.get(0)).use();
    List<JoinStep> fills =
        block.stepsThatFill(subject).stream()
            .filter(earlier -> earlier.number() < step.number())
            .toList();
    return fills.size() == 1 ? "step " + (fills.get(0).number() + 1) : "an earlier step";
  }

  private String noPartner(long rows) {
    String sofar = left ? "" : " so far";
    if (equalities.isEmpty()) {
      return "no row" + sofar + " meets the condition";
    }
    TableUse other = equalities.get(0).other(ours(equalities.get(0))).use();
    if (follows(true)) {
      return ourColumns(" and ")
          + " names "
          + Words.one(other.rowWord())
          + " that is not "
          + (left && other.table().isPresent() ? "there" : "among the rows" + sofar);
    }
    return follows(false)
        ? "no " + other.rowWord() + sofar + " refers to " + (rows == 1 ? "it" : "them")
        : "no " + otherColumns() + sofar + " equals " + ourColumns(", ");
  }

  /** Whether the schema has a reference along the equalities, from our side or from the other. */
  private boolean follows(boolean fromOurs) {
    return block.linksAlong(equalities.get(0)).stream()
        .anyMatch(link -> side.contains(link.from()) == fromOurs);
  }

  private String ourColumns(String between) {
    return equalities.stream().map(each -> ours(each).words()).collect(Collectors.joining(between));
  }

  private String otherColumns() {
    return equalities.stream()
        .map(each -> each.other(ours(each)).words())
        .collect(Collectors.joining(", "));
  }

  private UseColumn ours(Equated equated) {
    return side.contains(equated.left().use()) ? equated.left() : equated.right();
  }

  private String further() {
    return step.conjuncts().stream()
        .filter(each -> each.equality().filter(equalities::contains).isEmpty())
        .map(each -> SqlPrinter.print(each.condition(), block.dialect()))
        .collect(Collectors.joining(" AND "));
  }
}
