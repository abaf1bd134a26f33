package io.lantrel.check.kinds.joins;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.edit.QueryEdits;
import io.lantrel.probe.Question;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.jgrapht.Graph;
import org.jgrapht.alg.connectivity.ConnectivityInspector;
import org.jgrapht.graph.DefaultEdge;
import org.jgrapht.graph.SimpleGraph;

/**
 * Table uses that no condition connects: every row meets every row. A CROSS JOIN says that this is
 * meant, and a side of at most one row repeats nothing.
 */
public final class CrossProduct implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    if (!subject.resolution().problems().isEmpty()) {
      return List.of();
    }
    QueryBlock block = subject.block();
    ConnectivityInspector<TableUse, DefaultEdge> connected =
        new ConnectivityInspector<>(graph(block));
    return block.steps().stream()
        .filter(step -> step.kind() != JoinKind.CROSS)
        .filter(step -> isApart(step, connected))
        .filter(step -> !isOneRow(step.left()) && !isOneRow(step.right()))
        .map(step -> suspicion(step, subject))
        .toList();
  }

  private static Graph<TableUse, DefaultEdge> graph(QueryBlock block) {
    Graph<TableUse, DefaultEdge> graph = new SimpleGraph<>(DefaultEdge.class);
    block.uses().forEach(graph::addVertex);
    for (Conjunct conjunct : block.conjuncts()) {
      List<TableUse> uses = List.copyOf(conjunct.uses());
      for (int i = 1; i < uses.size(); i++) {
        graph.addEdge(uses.get(0), uses.get(i));
      }
    }
    // A function in FROM is worked out for the rows before it, whether LATERAL is written or not.
    for (TableUse use : block.uses()) {
      if (use.item() instanceof FromItem.TableFunction function) {
        block.mentioned(function).stream()
            .filter(other -> !other.equals(use) && block.uses().contains(other))
            .forEach(other -> graph.addEdge(use, other));
      }
    }
    return graph;
  }

  private static boolean isApart(
      JoinStep step, ConnectivityInspector<TableUse, DefaultEdge> connected) {
    return step.left().stream()
        .noneMatch(
            left -> step.right().stream().anyMatch(right -> connected.pathExists(left, right)));
  }

  private static boolean isOneRow(List<TableUse> side) {
    return side.stream()
        .allMatch(use -> use.keys().stream().anyMatch(key -> key.columns().isEmpty()));
  }

  private static Suspicion suspicion(JoinStep step, Subject subject) {
    Optional<Question<Long>> left = count(step.join().left(), subject);
    Optional<Question<Long>> right = count(step.join().right(), subject);
    return new Suspicion(
        Kind.CROSS_PRODUCT,
        step.place(),
        List.of(step.place()),
        Stream.of(left, right).<Question<?>>flatMap(Optional::stream).toList(),
        answers ->
            Optional.of(
                conclude(
                    step, left.flatMap(answers::ifAny), right.flatMap(answers::ifAny), subject)));
  }

  private static Optional<Question<Long>> count(FromItem side, Subject subject) {
    return subject.rows().map(rows -> Question.count(rows.side(side)));
  }

  private static Conclusion conclude(
      JoinStep step, Optional<Long> left, Optional<Long> right, Subject subject) {
    Map<String, Long> figures = new LinkedHashMap<>();
    String product = "";
    if (left.isPresent() && right.isPresent()) {
      BigInteger pairs = BigInteger.valueOf(left.get()).multiply(BigInteger.valueOf(right.get()));
      figures.put("rows on the left", left.get());
      figures.put("rows on the right", right.get());
      figures.put("pairs", pairs.min(BigInteger.valueOf(Long.MAX_VALUE)).longValue());
      product =
          ", "
              + count(left.get())
              + " × "
              + count(right.get())
              + " = "
              + String.format(Locale.ROOT, "%,d", pairs)
              + (pairs.equals(BigInteger.ONE) ? " pair" : " pairs");
    }
    String rightWords = Words.list(step.right().stream().map(TableUse::words).toList());
    String leftWords = Words.list(step.left().stream().map(TableUse::words).toList());
    List<Link> links = links(step, subject);
    String message =
        "Nothing connects "
            + rightWords
            + " with "
            + leftWords
            + ": every row meets every row"
            + product
            + ". "
            + (links.isEmpty()
                ? "Add the condition that connects them, or write CROSS JOIN if this is meant."
                : "Add "
                    + String.join(" or ", conditions(step, subject))
                    + ", or write CROSS JOIN if this is meant.");
    List<String> facts =
        links.stream().map(each -> "the schema has " + each.reference().words()).toList();
    return new Conclusion(
        Severity.WARNING, message, new Evidence(figures, List.of(), facts), repairs(step, subject));
  }

  private static String count(long number) {
    return String.format(Locale.ROOT, "%,d", number);
  }

  private static List<String> conditions(JoinStep step, Subject subject) {
    return links(step, subject).stream().map(Link::condition).toList();
  }

  private static List<Link> links(JoinStep step, Subject subject) {
    return step.left().stream()
        .flatMap(
            left ->
                step.right().stream()
                    .flatMap(right -> subject.block().linksBetween(left, right).stream()))
        .toList();
  }

  /** Only where there is one way to connect the two: nothing is chosen in silence. */
  private static List<List<Edit>> repairs(JoinStep step, Subject subject) {
    List<String> conditions = conditions(step, subject);
    if (conditions.size() != 1) {
      return List.of();
    }
    QueryEdits edits = subject.edits();
    String condition = conditions.get(0);
    List<List<Edit>> repairs = new ArrayList<>();
    boolean plainComma =
        step.kind() == JoinKind.COMMA && !(step.join().right() instanceof FromItem.Join);
    if (plainComma) {
      // An inner join first; where it would lose rows, the one that keeps them.
      for (JoinKind kind : List.of(JoinKind.INNER, JoinKind.LEFT)) {
        repairs.add(joined(step, edits.keyword(kind.words()), edits.keyword("ON"), condition));
      }
    }
    if (step.join().isBare()) {
      Edit on =
          Edit.insert(
              step.join().right().span().end(), " " + edits.keyword("ON") + " " + condition);
      repairs.add(List.of(on));
      repairs.add(List.of(on, edits.kind(step, JoinKind.LEFT)));
    }
    Optional<List<Edit>> added = edits.addToOn(step, condition);
    added.ifPresent(repairs::add);
    if (added.isPresent() && step.kind() == JoinKind.INNER) {
      List<Edit> keeping = new ArrayList<>(added.get());
      keeping.add(edits.kind(step, JoinKind.LEFT));
      repairs.add(keeping);
    }
    if (step.kind() == JoinKind.COMMA) {
      repairs.add(edits.addFilter(condition));
    }
    return repairs;
  }

  private static List<Edit> joined(JoinStep step, String words, String on, String condition) {
    Span comma = step.place();
    Span right = step.join().right().span();
    return List.of(
        new Edit(new Span(comma.start(), right.start()), " " + words + " "),
        Edit.insert(right.end(), " " + on + " " + condition));
  }
}
