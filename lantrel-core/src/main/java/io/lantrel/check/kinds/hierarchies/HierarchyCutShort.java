package io.lantrel.check.kinds.hierarchies;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.NamedRow;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A hierarchy followed for a fixed number of levels, although the rows go on: by a table joined to
 * itself again and again, or by a recursion that stops at a depth.
 */
public final class HierarchyCutShort implements Check {

  private static final int SHOWN = 3;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    chain(subject.block()).ifPresent(chain -> suspicions.add(suspicion(chain, subject)));
    Walk.of(subject).flatMap(walk -> stopped(walk, subject)).ifPresent(suspicions::add);
    return suspicions;
  }

  // ---- a chain of joins ----

  /**
   * A table joined to itself along one reference.
   *
   * @param links from one level to the next, all up or all down
   * @param step the last join
   */
  private record Chain(List<Link> links, boolean up, JoinStep step) {
    TableUse last() {
      Link link = links.get(links.size() - 1);
      return up ? link.to() : link.from();
    }
  }

  private static Optional<Chain> chain(QueryBlock block) {
    Optional<Chain> longest = Optional.empty();
    for (boolean up : new boolean[] {true, false}) {
      List<Link> links = new ArrayList<>();
      @Nullable JoinStep last = null;
      for (JoinStep step : block.steps()) {
        Optional<Link> link = link(step, links, up, block);
        if (link.isPresent()) {
          links.add(link.get());
          last = step;
        }
      }
      // Two levels may be all that is asked for.
      if (last != null && links.size() > 2) {
        longest = Optional.of(new Chain(List.copyOf(links), up, last));
      }
    }
    return longest;
  }

  private static Optional<Link> link(
      JoinStep step, List<Link> links, boolean up, QueryBlock block) {
    for (Conjunct conjunct : step.conjuncts()) {
      for (Link link : conjunct.likeness().map(block::linksAlong).orElse(List.of())) {
        TableUse from = up ? link.from() : link.to();
        TableUse to = up ? link.to() : link.from();
        boolean next =
            links.isEmpty()
                || (up ? links.get(links.size() - 1).to() : links.get(links.size() - 1).from())
                    .equals(from);
        if (link.reference().isSelfReference()
            && link.reference().fromColumns().size() == 1
            && step.right().contains(to)
            && next) {
          return Optional.of(link);
        }
      }
    }
    return Optional.empty();
  }

  private static Suspicion suspicion(Chain chain, Subject subject) {
    Optional<Question<Long>> deeper =
        subject.rows().map(rows -> Question.count(rows.all(), deeper(rows, chain)));
    return Suspicion.asking(
        Kind.HIERARCHY_CUT_SHORT,
        chain.step().place(),
        List.of(),
        deeper,
        count -> count.filter(rows -> rows > 0).map(rows -> conclude(chain, rows, subject)));
  }

  /** The last row has one above it, or below. */
  private static Expression deeper(JoinedRows rows, Chain chain) {
    Link link = chain.links().get(0);
    TableUse last = chain.last();
    UseColumn refers = last.columnOfTable(link.reference().fromColumns().get(0)).orElseThrow();
    UseColumn key = last.columnOfTable(link.reference().toColumns().get(0)).orElseThrow();
    return rows.isKept(
        chain.up()
            ? Sql.isNotNull(rows.column(rows.all(), refers))
            : rows.isAmong(
                rows.all(), key, other(chain).columnOfTable(refers.tableColumn()).orElseThrow()));
  }

  /** Another use of the table, by whose values the next level is found. */
  private static TableUse other(Chain chain) {
    return chain.links().get(0).to();
  }

  private static Conclusion conclude(Chain chain, long deeper, Subject subject) {
    int levels = chain.links().size() + 1;
    TableUse last = chain.last();
    String message =
        "This follows "
            + chain.links().get(0).reference().words()
            + " for "
            + Words.count(levels, "level")
            + ", and the hierarchy goes on: "
            + Words.rows(deeper)
            + " "
            + (deeper == 1 ? "ends" : "end")
            + " at "
            + Words.one(last.rowWord())
            + " with another one "
            + (chain.up() ? "above" : "below")
            + " it. Walk it with WITH RECURSIVE, which ends where the rows do.";
    JoinedRows rows = subject.rows().orElseThrow();
    Question<List<NamedRow>> names =
        RowNames.question(rows, rows.all(), last, deeper(rows, chain), SHOWN);
    return Conclusion.asking(
        Severity.WARNING,
        message,
        names,
        named -> new Evidence(Map.of("rows cut short", deeper), named, List.of()),
        List.of());
  }

  // ---- a recursion ----

  /** A condition that a level is below a number, and rows that would come after it. */
  private static Optional<Suspicion> stopped(Walk walk, Subject subject) {
    QueryBlock block = subject.block();
    List<Conjunct> limits = block.conjuncts().stream().filter(each -> isLimit(each, walk)).toList();
    if (limits.size() != 1 || subject.rows().isEmpty()) {
      return Optional.empty();
    }
    Conjunct limit = limits.get(0);
    Relation beyond = Relation.of(block.joinedFrom().orElseThrow(), block.commonTables(), true);
    List<Expression> others = new ArrayList<>();
    for (Conjunct each : block.filters()) {
      others.add(each.equals(limit) ? Sql.not(each.condition()) : each.condition());
    }
    boolean filtered = block.filters().contains(limit);
    if (!filtered || block.commonTables().isEmpty()) {
      return Optional.empty();
    }
    Question<Long> more =
        Question.count(
            beyond,
            Sql.equal(
                beyond.named(Sql.choose(Sql.all(others), Sql.number(1), Sql.number(0))),
                Sql.number(1)));
    return Optional.of(
        new Suspicion(
            Kind.HIERARCHY_CUT_SHORT,
            limit.span(),
            List.of(limit.span()),
            List.of(more),
            answers ->
                answers
                    .ifAny(more)
                    .filter(rows -> rows > 0)
                    .map(rows -> cut(walk, limit, rows, subject))));
  }

  private static boolean isLimit(Conjunct conjunct, Walk walk) {
    return conjunct.condition() instanceof Condition.Comparison comparison
        && conjunct.uses().size() == 1
        && conjunct.uses().contains(walk.reached())
        && switch (comparison.operator()) {
          case LESS, LESS_OR_EQUAL -> isNumber(comparison.right());
          case GREATER, GREATER_OR_EQUAL -> isNumber(comparison.left());
          default -> false;
        };
  }

  private static boolean isNumber(Expression value) {
    return value instanceof Value.Literal number && number.kind() == Value.LiteralKind.NUMBER;
  }

  private static Conclusion cut(Walk walk, Conjunct limit, long rows, Subject subject) {
    return new Conclusion(
        Severity.WARNING,
        subject.text(limit.condition())
            + " ends the walk although it could go on: "
            + Words.count(rows, walk.table().rowWord())
            + " of the next level "
            + (rows == 1 ? "is" : "are")
            + " missing, and what is below. Raise the limit, or leave it out where the rows have no"
            + " circle.",
        new Evidence(
            Map.of("rows of the next level", rows),
            List.of(),
            List.of("the schema has " + walk.reference().words())),
        List.of());
  }
}
