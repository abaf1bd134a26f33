package io.lantrel.rewrite.forms;

import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.sql.Edit;
import io.lantrel.sql.Parentheses;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;

/**
 * The old mark (+) as LEFT JOIN. The table whose columns have the mark is the optional one; it
 * comes behind those that its marked conditions name. A condition without a mark filters what is
 * joined.
 */
final class OldOuterJoinForm {

  private final Reading reading;
  private final QueryBlock block;
  private final Map<TableUse, List<Expression>> marked = new LinkedHashMap<>();

  OldOuterJoinForm(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
  }

  FormEdits change() {
    List<Expression> terms = reading.edits(block).terms();
    for (Expression term : terms) {
      Set<TableUse> optional = marks(term);
      if (optional.size() > 1) {
        throw new RewriteException(
            "one condition has (+) at "
                + Reading.names(optional)
                + "; only one table of it can be optional");
      }
      optional.forEach(use -> marked.computeIfAbsent(use, key -> new ArrayList<>()).add(term));
    }
    return marked.isEmpty() ? FormEdits.NONE : FormEdits.of(edits(terms));
  }

  private Set<TableUse> marks(Expression term) {
    Set<TableUse> uses = new LinkedHashSet<>();
    Aggregates.withoutQueries(term)
        .filter(Value.OuterMark.class::isInstance)
        .forEach(mark -> uses.addAll(block.mentioned(mark)));
    return uses;
  }

  private List<Edit> edits(List<Expression> terms) {
    if (block.writtenSteps().stream().anyMatch(step -> step.join().kind() != JoinKind.COMMA)
        || block.writtenSteps().stream().anyMatch(step -> step.right().size() > 1)) {
      throw new RewriteException("(+) stands beside JOIN, which no engine takes; take one out");
    }
    List<TableUse> order = order();
    List<Expression> moved = new ArrayList<>();
    List<String> from = new ArrayList<>();
    for (TableUse use : order) {
      List<Expression> on =
          marked.containsKey(use) ? marked.get(use) : connecting(use, order, terms);
      moved.addAll(on);
      String word = marked.containsKey(use) ? "LEFT JOIN" : on.isEmpty() ? "CROSS JOIN" : "JOIN";
      String start = from.isEmpty() ? "" : keyword(word) + " ";
      from.add(start + reading.text(use.item()) + condition(on) + comment(use));
    }
    String gap = reading.edits(block).gap();
    boolean lines = from.stream().anyMatch(each -> each.contains("--") || each.contains("#"));
    List<Edit> edits = new ArrayList<>();
    edits.add(
        new Edit(
            Objects.requireNonNull(block.select().from()).span(),
            String.join(lines && !gap.contains("\n") ? "\n" : gap, from)));
    edits.addAll(reading.edits(block).removeTerms(moved));
    return edits;
  }

  /** Every optional table behind those that it depends on, else as written. */
  private List<TableUse> order() {
    List<TableUse> left = new ArrayList<>(block.uses());
    List<TableUse> order = new ArrayList<>();
    while (!left.isEmpty()) {
      TableUse next =
          left.stream()
              .filter(use -> order.containsAll(needed(use)))
              .findFirst()
              .orElseThrow(
                  () ->
                      new RewriteException(
                          "(+) makes " + Reading.names(left) + " optional to one another"));
      order.add(next);
      left.remove(next);
    }
    return order;
  }

  private Set<TableUse> needed(TableUse use) {
    Set<TableUse> needed = new LinkedHashSet<>();
    List<Expression> conditions = marked.getOrDefault(use, List.of());
    conditions.forEach(each -> needed.addAll(block.mentioned(each)));
    needed.remove(use);
    if (needed.isEmpty() && !conditions.isEmpty()) {
      throw new RewriteException(
          "(+) at " + use.name() + " joins it to no other table; take the mark out");
    }
    return needed;
  }

  /** What connects a table that is not optional with those before it. */
  private List<Expression> connecting(TableUse use, List<TableUse> order, List<Expression> terms) {
    List<TableUse> before = order.subList(0, order.indexOf(use));
    return terms.stream()
        .filter(term -> marks(term).isEmpty())
        .filter(term -> block.mentioned(term).contains(use))
        .filter(term -> block.mentioned(term).stream().anyMatch(before::contains))
        .filter(
            term ->
                block.mentioned(term).stream()
                    .allMatch(each -> each == use || before.contains(each)))
        .toList();
  }

  /** What stands between a table and the next one, but for the comma. */
  private String comment(TableUse use) {
    if (use.index() + 1 == block.uses().size()) {
      return "";
    }
    Span item = use.item().span();
    Span comma = block.writtenSteps().get(use.index()).join().keyword();
    Span next = block.uses().get(use.index() + 1).item().span();
    String before = reading.source().at(Span.between(item, comma)).strip();
    String behind = reading.source().at(Span.between(comma, next)).strip();
    String both = (before + " " + behind).strip();
    return both.isEmpty() ? "" : " " + both;
  }

  private String condition(List<Expression> on) {
    if (on.isEmpty()) {
      return "";
    }
    List<String> texts = new ArrayList<>();
    for (Expression each : on) {
      String text = withoutMarks(each);
      texts.add(Parentheses.asTerm(each, text));
    }
    return " " + keyword("ON") + " " + String.join(" " + keyword("AND") + " ", texts);
  }

  private String withoutMarks(Expression term) {
    List<Edit> edits = new ArrayList<>();
    Aggregates.withoutQueries(term)
        .filter(Value.OuterMark.class::isInstance)
        .map(Value.OuterMark.class::cast)
        .forEach(
            mark -> {
              int start = mark.column().span().end() - term.span().start();
              int length = mark.span().end() - mark.column().span().end();
              edits.add(new Edit(new Span(start, start + length), ""));
            });
    return Edit.apply(reading.text(term), edits);
  }

  private String keyword(String word) {
    return reading.edits(block).keyword(word);
  }
}
