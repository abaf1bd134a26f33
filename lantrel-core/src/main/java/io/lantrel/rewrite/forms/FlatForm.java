package io.lantrel.rewrite.forms;

import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Multiplicity;
import io.lantrel.resolve.NullRejection;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Span;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.IdentityHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Joins within joins as one chain. An inner join may be taken apart always; behind LEFT JOIN it may
 * if the joins within cannot drop a row and do not join to NULL (C. Galindo-Legaria, A. Rosenthal:
 * Outerjoin Simplification and Reordering for Query Optimization, 1997, section 3, associativity).
 */
final class FlatForm {

  private final Reading reading;
  private final QueryBlock block;

  FlatForm(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
  }

  FormEdits change() {
    FromItem from = block.select().from();
    if (from == null) {
      return FormEdits.NONE;
    }
    List<FromItem.Join> joins = joins(from);
    for (FromItem.Join join : joins) {
      boolean needed =
          joins.stream()
              .anyMatch(each -> each.right().equals(join) && each.kind() != JoinKind.COMMA);
      if (join.inParentheses() && !needed && join.alias() == null && !hasComma(join)) {
        return FormEdits.of(Edit.withoutParentheses(join.span()));
      }
    }
    Optional<FromItem.Join> outer =
        joins.stream()
            .filter(each -> each.right() instanceof FromItem.Join && each.kind() != JoinKind.COMMA)
            .findFirst();
    if (outer.isEmpty()) {
      return FormEdits.NONE;
    }
    FormEdits first = FormEdits.of(new UsingForm(reading, block).edits());
    if (first.isNone()) {
      first = FormEdits.of(new RightForm(reading, block).edits());
    }
    return first.isNone()
        ? FormEdits.of(flat(outer.get(), (FromItem.Join) outer.get().right()))
        : first;
  }

  /** All joins of FROM, the innermost first. */
  private static List<FromItem.Join> joins(FromItem from) {
    List<FromItem.Join> found = new ArrayList<>();
    Deque<FromItem> open = new ArrayDeque<>(List.of(from));
    while (!open.isEmpty()) {
      if (open.pop() instanceof FromItem.Join join) {
        found.add(0, join);
        open.push(join.left());
        open.push(join.right());
      }
    }
    return found;
  }

  private static boolean hasComma(FromItem.Join join) {
    return spine(join).stream().anyMatch(each -> each.kind() == JoinKind.COMMA);
  }

  /** A join and those on its left side, the first to be carried out first. */
  private static List<FromItem.Join> spine(FromItem.Join join) {
    List<FromItem.Join> spine = new ArrayList<>();
    FromItem item = join;
    while (item instanceof FromItem.Join each) {
      spine.add(0, each);
      item = each.left();
    }
    return spine;
  }

  private List<Edit> flat(FromItem.Join outer, FromItem.Join inner) {
    JoinStep step = block.step(outer).orElseThrow();
    String tables = Reading.names(step.right());
    if (inner.alias() != null || step.kind().keepsRight()) {
      throw new RewriteException(
          inner.alias() != null
              ? "(" + tables + ") has a name of its own"
              : "all of (" + tables + ") is kept; write it first, with LEFT JOIN");
    }
    if (!(outer.condition() instanceof JoinCondition.On on) || on.span().equals(outer.keyword())) {
      throw new RewriteException("(" + tables + ") is joined without ON; write ON first");
    }
    List<FromItem.Join> within = spine(inner);
    within.forEach(each -> refuseIfUnfit(each, tables));
    FromItem first = within.get(0).left();
    List<Edit> edits = new ArrayList<>();
    if (inner.inParentheses()) {
      edits.addAll(Edit.withoutParentheses(inner.span()));
    }
    edits.add(new Edit(withGap(on.span()), ""));
    Map<FromItem, List<Conjunct>> placed = placed(step, within, first);
    String word = " " + reading.edits(block).keyword("ON") + " ";
    boolean whole = placed.size() == 1;
    edits.add(
        Edit.insert(
            first.span().end(),
            word + (whole ? reading.text(on.condition()) : joined(get(placed, first)))));
    for (FromItem.Join each : within) {
      List<Conjunct> here = get(placed, each);
      if (!here.isEmpty()) {
        JoinStep at = block.step(each).orElseThrow();
        edits.addAll(reading.edits(block).addToOn(at, joined(here)).orElseThrow());
      }
      if (step.kind() == JoinKind.LEFT && each.kind() == JoinKind.INNER) {
        edits.add(reading.edits(block).kind(block.step(each).orElseThrow(), JoinKind.LEFT));
      }
      if (step.kind() == JoinKind.LEFT) {
        refuseIfRowsChange(each, step);
      }
    }
    return edits;
  }

  private static List<Conjunct> get(Map<FromItem, List<Conjunct>> placed, FromItem item) {
    return placed.getOrDefault(item, List.of());
  }

  private static void refuseIfUnfit(FromItem.Join each, String tables) {
    boolean plain = each.kind() == JoinKind.INNER || each.kind() == JoinKind.LEFT;
    if (!plain || each.way() != FromItem.Way.BY_CONDITION) {
      throw new RewriteException(
          "(" + tables + ") holds another join than JOIN and LEFT JOIN; write those first");
    }
    if (!(each.condition() instanceof JoinCondition.On on) || on.span().equals(each.keyword())) {
      throw new RewriteException("(" + tables + ") holds a join without ON; write ON first");
    }
  }

  /** A condition stands where the last of the tables that it names is joined. */
  private Map<FromItem, List<Conjunct>> placed(
      JoinStep step, List<FromItem.Join> within, FromItem first) {
    Map<FromItem, List<Conjunct>> placed = new IdentityHashMap<>();
    for (Conjunct conjunct : step.conjuncts()) {
      FromItem place = first;
      for (FromItem.Join each : within) {
        List<TableUse> joined = block.step(each).orElseThrow().right();
        if (joined.stream().anyMatch(conjunct.uses()::contains)) {
          place = each;
          if (step.kind() == JoinKind.LEFT || each.kind() == JoinKind.LEFT) {
            throw new RewriteException(
                "the condition of the join around also names "
                    + Reading.names(joined)
                    + ", which the first table within is joined to");
          }
        }
      }
      placed.computeIfAbsent(place, key -> new ArrayList<>()).add(conjunct);
    }
    if (!placed.containsKey(first)) {
      throw new RewriteException(
          "no condition connects "
              + Reading.names(block.step(within.get(0)).orElseThrow().left())
              + " with the tables before it; begin with another table within the parentheses");
    }
    return placed;
  }

  /** Behind LEFT JOIN what follows must neither drop a row nor find partners for no row. */
  private void refuseIfRowsChange(FromItem.Join each, JoinStep around) {
    JoinStep step = block.step(each).orElseThrow();
    String joined = Reading.names(step.right());
    if (step.kind() == JoinKind.INNER
        && block.partnersOnTheRight(step) != Multiplicity.EXACTLY_ONE) {
      throw new RewriteException(
          "in one chain a row of "
              + Reading.names(step.left())
              + " without "
              + joined
              + " would be kept, and nothing in the schema says that each has one");
    }
    Set<TableUse> missing = new LinkedHashSet<>(step.left());
    missing.retainAll(around.right());
    boolean rejects =
        step.conjuncts().stream()
            .anyMatch(one -> NullRejection.rejects(one.condition(), block, missing));
    if (!rejects) {
      throw new RewriteException(
          "the condition of "
              + joined
              + " can be true although "
              + Reading.names(missing)
              + " is missing");
    }
  }

  private String joined(List<Conjunct> conjuncts) {
    return reading.conjunction(block, conjuncts.stream().map(Conjunct::condition).toList());
  }

  /** A clause and the space before it. */
  private Span withGap(Span span) {
    String before = reading.source().text().substring(0, span.start());
    return new Span(before.stripTrailing().length(), span.end());
  }
}
