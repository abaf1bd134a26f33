package io.lantrel.report;

import io.lantrel.engine.NamedRow;
import io.lantrel.hierarchy.Hierarchy;
import io.lantrel.hierarchy.Hierarchy.Node;
import io.lantrel.hierarchy.HierarchyWish;
import io.lantrel.hierarchy.OverJunction;
import io.lantrel.hierarchy.RowsBetween;
import io.lantrel.words.Words;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/** Trees with their figures beside them, and what no tree should have. */
public final class HierarchyText {

  private final Style style;

  public HierarchyText(Style style) {
    this.style = style;
  }

  /** The whole hierarchy. */
  public String write(Hierarchy hierarchy) {
    List<String> lines = new ArrayList<>();
    lines.addAll(Layout.wrapped(head(hierarchy), 0, style.width()));
    List<List<String>> rows = new ArrayList<>();
    boolean sums = !hierarchy.sum().isEmpty();
    List<String> heads =
        new ArrayList<>(List.of(hierarchy.table().name(), "level", counted(hierarchy)));
    if (sums) {
      heads.add(hierarchy.sum());
    }
    rows.add(heads.stream().map(style::faint).toList());
    for (Node tree : hierarchy.trees()) {
      add(tree, "", "", sums, rows);
    }
    if (hierarchy.trees().size() > 0) {
      lines.add("");
      lines.addAll(
          Layout.table(rows, List.of(false, true, true, true).subList(0, heads.size()), 2));
    }
    List<String> remarks = remarks(hierarchy);
    if (!remarks.isEmpty()) {
      lines.add("");
      remarks.forEach(each -> lines.addAll(Layout.wrapped(each, 2, style.width())));
    }
    return String.join("\n", lines) + "\n";
  }

  /** What lies between two rows: one line for each, the common one in the middle. */
  public String between(RowsBetween between) {
    String pair = between.first().words() + " and " + between.second().words();
    List<String> lines = new ArrayList<>();
    if (between.common().isEmpty()) {
      lines.addAll(Layout.wrapped(pair + " have no row in common:", 0, style.width()));
      lines.add("");
      between.up().forEach(each -> lines.add("  up    " + each.words()));
      lines.add("");
      between.down().forEach(each -> lines.add("  down  " + each.words()));
      return String.join("\n", lines) + "\n";
    }
    int steps = between.distance().orElseThrow();
    String head =
        pair + ": " + Words.count(steps, "step") + " along " + between.reference().words();
    lines.addAll(Layout.wrapped(head, 0, style.width()));
    lines.add("");
    int last = between.up().size() - 1;
    between.up().subList(0, last).forEach(each -> lines.add("  up      " + each.words()));
    lines.add("  " + style.strong("common  " + between.up().get(last).words()));
    between.down().forEach(each -> lines.add("  down    " + each.words()));
    return String.join("\n", lines) + "\n";
  }

  /** What is counted below a row: over a junction the ways to rows. */
  private static String counted(Hierarchy hierarchy) {
    return hierarchy.junction().isPresent() ? "ways" : "rows";
  }

  private static String along(Hierarchy hierarchy) {
    return hierarchy
        .junction()
        .map(
            over ->
                " over "
                    + over.table().name()
                    + ", "
                    + String.join(", ", over.below().fromColumns())
                    + " below "
                    + String.join(", ", over.above().fromColumns()))
        .orElseGet(() -> " along " + hierarchy.reference().words());
  }

  private String head(Hierarchy hierarchy) {
    String levels =
        hierarchy.levels().stream().map(Words::number).collect(Collectors.joining(", "))
            + (hierarchy.junction().isPresent() ? " ways" : "");
    return style.strong(hierarchy.table().name())
        + along(hierarchy)
        + ": "
        + Words.rows(hierarchy.rows())
        + ", "
        + Words.count(hierarchy.levels().size(), "level")
        + (hierarchy.levels().isEmpty() ? "" : " (" + levels + ")");
  }

  private void add(Node node, String branch, String indent, boolean sums, List<List<String>> rows) {
    String broken =
        node.refersTo().isEmpty()
            ? ""
            : style.gone("  refers to " + node.refersTo() + ", which is not there");
    List<String> row = new ArrayList<>();
    row.add(branch + name(node.row()) + broken);
    row.add(String.valueOf(node.level()));
    row.add(Words.number(node.size()));
    if (sums) {
      row.add(node.sum().map(BigDecimal::toPlainString).orElse("NULL"));
    }
    rows.add(row);
    long hidden = node.hidden() - node.below().stream().mapToLong(Node::hidden).sum();
    for (int i = 0; i < node.below().size(); i++) {
      boolean last = i == node.below().size() - 1 && hidden == 0;
      add(
          node.below().get(i),
          indent + (last ? "└─ " : "├─ "),
          indent + (last ? "   " : "│  "),
          sums,
          rows);
    }
    if (hidden > 0) {
      List<String> more = new ArrayList<>();
      more.add(style.faint(indent + "└─ … " + Words.number(hidden) + " more below"));
      more.addAll(sums ? List.of("", "", "") : List.of("", ""));
      rows.add(more);
    }
  }

  /** By its first text, with the key before it. */
  private static String name(NamedRow row) {
    return row.values().stream().map(String::valueOf).collect(Collectors.joining(" "));
  }

  private List<String> remarks(Hierarchy hierarchy) {
    List<String> remarks = new ArrayList<>();
    for (List<NamedRow> circle : hierarchy.circles()) {
      String first = name(circle.get(0));
      remarks.add(
          style.gone("circle: ")
              + (circle.size() == 1
                  ? first + " refers to itself"
                  : circle.stream().map(HierarchyText::name).collect(Collectors.joining(" → "))
                      + " → "
                      + first));
    }
    if (hierarchy.belowCircles() > 0) {
      remarks.add(
          Words.rows(hierarchy.belowCircles())
              + (hierarchy.belowCircles() == 1 ? " hangs" : " hang")
              + (hierarchy.levels().size() < HierarchyWish.DEEPEST
                  ? " below a circle"
                  : " below a circle, or deeper than " + HierarchyWish.DEEPEST + " levels")
              + ", so that no root reaches "
              + (hierarchy.belowCircles() == 1 ? "it." : "them."));
    }
    hierarchy.junction().ifPresent(over -> remarks.addAll(remarks(over)));
    long broken = hierarchy.trees().stream().filter(each -> !each.refersTo().isEmpty()).count();
    if (broken > 0) {
      remarks.add(
          Words.rows(broken)
              + (broken == 1 ? " refers" : " refer")
              + " to a row that is not there, and "
              + (broken == 1 ? "begins a tree" : "begin trees")
              + " of "
              + (broken == 1 ? "its" : "their")
              + " own here.");
    }
    if (hierarchy.hidden() > 0) {
      remarks.add(
          (hierarchy.junction().isPresent()
                  ? Words.count(hierarchy.hidden(), "way")
                  : Words.rows(hierarchy.hidden()) + " of the trees")
              + " "
              + (hierarchy.hidden() == 1 ? "is" : "are")
              + " not shown; --rows and --levels say how many are.");
    }
    return remarks;
  }

  private static List<String> remarks(OverJunction over) {
    List<String> remarks = new ArrayList<>();
    if (over.sharing() > 0) {
      String names =
          over.shared().stream()
              .map(each -> name(each.row()) + " (" + each.above() + ")")
              .collect(Collectors.joining(", "));
      remarks.add(
          Words.rows(over.sharing())
              + (over.sharing() == 1 ? " is" : " are")
              + " below several others and shown below each: "
              + names
              + (over.shared().size() < over.sharing() ? ", …" : ""));
    }
    if (over.broken() > 0) {
      remarks.add(
          Words.count(over.broken(), "pair")
              + " of "
              + over.table().name()
              + (over.broken() == 1 ? " names" : " name")
              + " a row that is not there.");
    }
    return remarks;
  }
}
