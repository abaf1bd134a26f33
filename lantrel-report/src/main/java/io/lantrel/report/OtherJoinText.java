package io.lantrel.report;

import io.lantrel.ledger.Change;
import io.lantrel.ledger.OtherJoin;
import io.lantrel.ledger.WithoutJoin;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;

/** What joins of another kind would give, and what there would be without a join. */
final class OtherJoinText {

  private final Style style;

  OtherJoinText(Style style) {
    this.style = style;
  }

  String write(List<OtherJoin> others) {
    if (others.isEmpty()) {
      return "  Nothing to compare: no join, or only such joins already.\n";
    }
    List<List<String>> rows = new ArrayList<>();
    rows.add(head("step", "rows now", "as " + others.get(0).instead(), "result now", "would be"));
    for (OtherJoin other : others) {
      boolean possible = other.refusal().isEmpty();
      rows.add(
          List.of(
              style.faint(String.valueOf(other.step())),
              other.words(),
              Words.number(other.rows()),
              possible ? style.strong(Words.number(other.otherRows())) : "",
              Words.number(other.result()),
              other.other().isPresent()
                  ? style.strong(Words.number(other.other().getAsLong()))
                  : ""));
    }
    List<String> lines =
        new ArrayList<>(Layout.table(rows, List.of(true, false, true, true, true, true), 2));
    others.forEach(each -> lines.addAll(reasons(each)));
    return String.join("\n", lines) + "\n";
  }

  private List<String> head(String... words) {
    List<String> head = new ArrayList<>(List.of(""));
    for (String word : words) {
      head.add(style.faint(word));
    }
    return head;
  }

  private List<String> reasons(OtherJoin other) {
    List<String> lines = new ArrayList<>(List.of(""));
    lines.add("  " + style.strong(other.words()));
    if (!other.refusal().isEmpty()) {
      lines.addAll(Layout.wrapped("Not possible: " + other.refusal() + ".", 4, style.width()));
      return lines;
    }
    if (other.come().isEmpty() && other.go().isEmpty()) {
      lines.add("    No row would come or go: each has a partner.");
      return lines;
    }
    CauseText causes = new CauseText(style);
    for (Change change : other.come()) {
      change.causes().forEach(each -> lines.addAll(causes.of("would come", each, true)));
    }
    for (Change change : other.go()) {
      change.causes().forEach(each -> lines.addAll(causes.of("would go", each, true)));
    }
    return lines;
  }

  String write(WithoutJoin without) {
    List<List<String>> rows = new ArrayList<>();
    rows.add(head("step", "rows now", "without it"));
    rows.add(
        List.of(
            style.faint(String.valueOf(without.step())),
            without.words(),
            Words.number(without.rows()),
            style.strong(Words.number(without.other()))));
    List<String> lines = new ArrayList<>(Layout.table(rows, List.of(true, false, true, true), 2));
    lines.add("");
    sentences(without).forEach(each -> lines.addAll(Layout.wrapped(each, 2, style.width())));
    return String.join("\n", lines) + "\n";
  }

  private static List<String> sentences(WithoutJoin without) {
    List<String> sentences = new ArrayList<>();
    sentences.add("The rows are those that the joins and WHERE give, before any are put together.");
    if (!without.along().isEmpty()) {
      sentences.add(
          "What is joined to it falls away with it: " + Words.list(without.along()) + ".");
    }
    if (!without.conditions().isEmpty()) {
      sentences.add(
          "Conditions of WHERE fall away with it: " + Words.list(without.conditions()) + ".");
    }
    boolean alone = without.along().isEmpty() && without.conditions().isEmpty();
    if (without.uses().isEmpty()) {
      sentences.add(
          "No clause uses its columns"
              + (alone && without.rows() == without.other()
                  ? ", and no row comes or goes without it: on this data it does nothing."
                  : "."));
    } else {
      sentences.add("Its columns are used in " + Words.list(without.uses()) + ".");
    }
    return sentences;
  }
}
