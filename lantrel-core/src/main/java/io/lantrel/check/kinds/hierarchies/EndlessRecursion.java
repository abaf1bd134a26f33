package io.lantrel.check.kinds.hierarchies;

import io.lantrel.catalog.Reference;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Edit;
import io.lantrel.sql.LexedText;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.QueryBody.SetOperation;
import io.lantrel.sql.tree.QueryBody.SetOperator;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.jgrapht.alg.connectivity.KosarajuStrongConnectivityInspector;
import org.jgrapht.graph.DefaultDirectedGraph;
import org.jgrapht.graph.DefaultEdge;

/**
 * A recursion without a stop: it adds to itself without a condition, or walks into a circle of the
 * rows. It must be known before the query is run.
 */
public final class EndlessRecursion implements Check {

  /** Rows of a hierarchy up to which circles are looked for. */
  private static final int MOST = 200_000;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    Optional<CommonTable> recursion = recursion(subject);
    if (!block.isRecursive() || recursion.isEmpty() || isStopped(block, recursion.get())) {
      return List.of();
    }
    Optional<SetOperation> union = union(recursion.get(), block);
    boolean merges = union.filter(each -> each.all()).isEmpty();
    if (merges
        && (!grows(block) || subject.block().dialect().has(Dialect.Rule.RECURSION_REPEATS_ROWS))) {
      return List.of();
    }
    boolean alone = block.uses().stream().allMatch(use -> use.table().isEmpty());
    if ((alone && block.uses().size() == 1 && grows(block)) || (!merges && isUnconnected(block))) {
      return List.of(certain(recursion.get(), subject));
    }
    return Walk.of(subject).stream()
        .filter(walk -> !(walk.down() && walk.startsAtTheTop()))
        .map(walk -> suspicion(walk, recursion.get(), union, subject))
        .toList();
  }

  /** The member of WITH whose step the block is. */
  static Optional<CommonTable> recursion(Subject subject) {
    Span own = subject.block().select().span();
    return subject
        .resolution()
        .result()
        .query()
        .preorder()
        .filter(CommonTable.class::isInstance)
        .map(CommonTable.class::cast)
        .filter(each -> each.query().span().contains(own))
        .reduce((outer, inner) -> inner);
  }

  static Optional<SetOperation> union(CommonTable recursion, QueryBlock block) {
    return recursion
        .query()
        .preorder()
        .filter(SetOperation.class::isInstance)
        .map(SetOperation.class::cast)
        .filter(each -> each.operator() == SetOperator.UNION)
        .filter(each -> each.parts().contains(block.select()))
        .findFirst();
  }

  /** A further condition on what was reached, an aggregate, a limit, or CYCLE. */
  static boolean isStopped(QueryBlock block, CommonTable recursion) {
    List<TableUse> reached = block.uses().stream().filter(use -> use.table().isEmpty()).toList();
    boolean tested =
        block.conjuncts().stream()
            .filter(each -> each.uses().stream().anyMatch(reached::contains))
            .anyMatch(each -> !isWalk(each));
    return tested
        || recursion.walk() != null
        || block.isGrouped()
        || block.query().limit() != null
        || recursion.query().limit() != null;
  }

  /** Whether no condition at all is about the rows before, and none is about no row. */
  private static boolean isUnconnected(QueryBlock block) {
    return block.steps().stream().allMatch(step -> step.join().way() == FromItem.Way.BY_CONDITION)
        && block.conjuncts().stream()
            .noneMatch(
                each ->
                    each.uses().isEmpty()
                        || each.uses().stream().anyMatch(use -> use.table().isEmpty()));
  }

  private static boolean isWalk(Conjunct conjunct) {
    return conjunct.likeness().isPresent();
  }

  /** Whether a value that is worked out makes every row a new one. */
  private static boolean grows(QueryBlock block) {
    return block.outputs().stream()
        .flatMap(each -> each.value().preorder())
        .anyMatch(Value.Arithmetic.class::isInstance);
  }

  private static Suspicion certain(CommonTable recursion, Subject subject) {
    Span place = subject.block().select().span();
    return Suspicion.certain(
        Kind.ENDLESS_RECURSION,
        place,
        Conclusion.warning(
            "Every row of "
                + recursion.name().text()
                + " makes another one, and no condition stops it: it does not end. Add a condition"
                + " to this SELECT that some row does not meet.",
            List.of("its step has no condition on the rows before"),
            List.of()));
  }

  // ---- circles ----

  private static Suspicion suspicion(
      Walk walk, CommonTable recursion, Optional<SetOperation> union, Subject subject) {
    Question<List<String>> circle = circle(walk.reference(), subject.block());
    Span place = walk.conjunct().span();
    return new Suspicion(
        Kind.ENDLESS_RECURSION,
        place,
        List.of(place),
        List.of(circle),
        answers ->
            answers
                .ifAny(circle)
                .filter(rows -> !rows.isEmpty())
                .map(rows -> conclude(walk, recursion, union, rows, subject)));
  }

  /** The keys of the rows of a circle, in its order; empty if there is none. */
  private static Question<List<String>> circle(Reference reference, QueryBlock block) {
    String alias = "walked";
    Dialect dialect = block.dialect();
    FromItem table = Sql.tableAs(reference.from(), alias, dialect);
    QueryBody body =
        Sql.select(
            List.of(
                Sql.as(Sql.columnOf(alias, reference.toColumns().get(0), dialect), "c0"),
                Sql.as(Sql.columnOf(alias, reference.fromColumns().get(0), dialect), "c1")),
            table,
            Sql.isNotNull(Sql.columnOf(alias, reference.fromColumns().get(0), dialect)));
    Query query = new Query(Span.NOWHERE, false, List.of(), body, List.of(), Limit.of(MOST));
    return Question.values(
        Relation.of(table, null),
        query,
        2,
        answer -> {
          Map<String, String> above = new LinkedHashMap<>();
          answer
              .rows()
              .forEach(row -> above.put(String.valueOf(row.get(0)), String.valueOf(row.get(1))));
          return circleIn(above);
        });
  }

  private static List<String> circleIn(Map<String, String> above) {
    DefaultDirectedGraph<String, DefaultEdge> graph = new DefaultDirectedGraph<>(DefaultEdge.class);
    above.forEach(
        (row, next) -> {
          graph.addVertex(row);
          graph.addVertex(next);
          graph.addEdge(row, next);
        });
    Set<String> rows =
        new KosarajuStrongConnectivityInspector<>(graph)
            .stronglyConnectedSets().stream()
                .filter(
                    each ->
                        each.size() > 1
                            || each.stream().anyMatch(row -> row.equals(above.get(row))))
                .findFirst()
                .orElse(Set.of());
    List<String> circle = new ArrayList<>();
    String at = rows.stream().sorted().findFirst().orElse("");
    while (!at.isEmpty() && !circle.contains(at) && circle.size() < 10) {
      circle.add(at);
      at = above.getOrDefault(at, "");
    }
    return circle;
  }

  private static Conclusion conclude(
      Walk walk,
      CommonTable recursion,
      Optional<SetOperation> union,
      List<String> circle,
      Subject subject) {
    String row = walk.table().rowWord();
    List<String> names = new ArrayList<>(circle);
    names.add(circle.get(0));
    String message =
        "The rows close a circle along "
            + walk.reference().words()
            + ", and nothing stops "
            + recursion.name().text()
            + " there: once in it, it does not end. "
            + (grows(subject.block())
                ? "Add a condition on how deep it may go."
                : "Write UNION, which leaves out what it has met, or add a condition on how deep it"
                    + " may go.");
    List<List<Edit>> repairs =
        grows(subject.block()) ? List.of() : unionAll(union, subject).toList();
    return new Conclusion(
        Severity.WARNING,
        message,
        new Evidence(Map.of(), List.of(), List.of(row + " " + String.join(" → ", names))),
        repairs);
  }

  private static Stream<List<Edit>> unionAll(Optional<SetOperation> union, Subject subject) {
    return union.stream()
        .flatMap(
            each -> {
              List<? extends Node> parts = each.parts();
              Span between = Span.between(parts.get(0).span(), parts.get(1).span());
              return new LexedText(subject.source(), between, subject.block().dialect())
                  .first("ALL").stream();
            })
        .map(word -> List.of(new Edit(new Span(word.start() - 1, word.end()), "")));
  }
}
