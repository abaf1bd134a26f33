package io.lantrel.report;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.Reference;
import io.lantrel.survey.Survey;
import io.lantrel.survey.Survey.ReferenceSurvey;
import io.lantrel.survey.Survey.TableSurvey;
import io.lantrel.trace.ColumnOrigin;
import io.lantrel.words.Words;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** The tables and their references as text that drawing programs read. */
public final class DiagramText {

  /**
   * For Graphviz: in its DOT language. An arrow leads to the table referred to; it is dashed if the
   * schema does not declare it, and dotted if it is merely possible.
   */
  public String dot(Survey survey) {
    StringBuilder text = new StringBuilder("digraph tables {\n");
    text.append("  rankdir=RL;\n  node [shape=box, fontname=\"sans-serif\"];\n");
    text.append("  edge [fontname=\"sans-serif\", fontsize=10];\n");
    for (TableSurvey table : survey.tables()) {
      String name = escaped(table.table().name());
      String rows = Words.count(table.rows(), "row");
      text.append("  \"").append(name).append("\" [label=\"");
      text.append(name).append("\\n").append(rows).append("\"];\n");
    }
    for (ReferenceSurvey each : survey.references()) {
      Reference reference = each.reference();
      text.append("  ").append(quoted(reference.from().name())).append(" -> ");
      text.append(quoted(reference.to().name())).append(" [label=");
      text.append(quoted(String.join(", ", reference.fromColumns())));
      text.append(
          switch (reference.basis()) {
            case DECLARED -> "";
            case OBSERVED -> ", style=dashed";
            case POSSIBLE -> ", style=dotted";
          });
      text.append("];\n");
    }
    return text.append("}\n").toString();
  }

  private static String quoted(String text) {
    return '"' + escaped(text) + '"';
  }

  private static String escaped(String text) {
    return text.replace("\\", "\\\\").replace("\"", "\\\"");
  }

  /**
   * For Mermaid: as an entity relationship diagram. Only keys and columns that refer are named. A
   * dashed line is a reference that the schema does not declare; possible ones are left out.
   */
  public String mermaid(Survey survey) {
    StringBuilder text = new StringBuilder("erDiagram\n");
    for (TableSurvey table : survey.tables()) {
      Set<String> refer = new HashSet<>();
      survey.references().stream()
          .map(ReferenceSurvey::reference)
          .filter(each -> each.from().name().equals(table.table().name()))
          .filter(each -> each.basis() != Basis.POSSIBLE)
          .forEach(each -> refer.addAll(each.fromColumns()));
      List<String> key = table.key().map(each -> each.columns()).orElse(List.of());
      text.append("  ").append(entity(table.table().name())).append(" {\n");
      for (Column column : table.table().columns()) {
        boolean inKey = key.contains(column.name());
        boolean refers = refer.contains(column.name());
        if (inKey || refers) {
          text.append("    ").append(word(column.type().word())).append(' ');
          text.append(word(column.name())).append(' ');
          text.append(inKey && refers ? "PK, FK" : inKey ? "PK" : "FK").append('\n');
        }
      }
      text.append("  }\n");
    }
    for (ReferenceSurvey each : survey.references()) {
      Reference reference = each.reference();
      if (reference.basis() != Basis.POSSIBLE) {
        String one = each.empty() > 0 ? "|o" : "||";
        String line = reference.basis() == Basis.DECLARED ? "--" : "..";
        text.append("  ").append(entity(reference.to().name())).append(' ').append(one);
        text.append(line).append("o{ ").append(entity(reference.from().name())).append(" : ");
        text.append(entity(String.join(", ", reference.fromColumns()))).append('\n');
      }
    }
    return text.toString();
  }

  /**
   * Names with anything but letters, digits and low lines stand in quotes, which cannot be escaped.
   */
  private static String entity(String name) {
    return name.matches("[A-Za-z_][A-Za-z0-9_]*") ? name : '"' + name.replace("\"", "'") + '"';
  }

  private static String word(String text) {
    return text.replaceAll("[^A-Za-z0-9_]", "_").replaceFirst("^(?=[0-9])", "_");
  }

  /** For Mermaid: the columns of a result at the right, and what they come from at the left. */
  public String mermaid(List<ColumnOrigin> origins) {
    StringBuilder text = new StringBuilder("flowchart LR\n");
    Map<ColumnOrigin.OfTable, String> known = new LinkedHashMap<>();
    for (int i = 0; i < origins.size(); i++) {
      ColumnOrigin origin = origins.get(i);
      text.append("  r")
          .append(i)
          .append("([\"")
          .append(escapedForMermaid(origin.heading()))
          .append("\"])\n");
      for (ColumnOrigin.OfTable from : origin.from()) {
        String node = known.get(from);
        if (node == null) {
          node = "c" + known.size();
          known.put(from, node);
          text.append("  ")
              .append(node)
              .append("[\"")
              .append(escapedForMermaid(from.words()))
              .append("\"]\n");
        }
        text.append("  ").append(node).append(origin.copied() ? " --> r" : " -.-> r").append(i);
        text.append('\n');
      }
    }
    return text.toString();
  }

  private static String escapedForMermaid(String text) {
    return text.replace("#", "#35;").replace("\"", "#quot;").replace("<", "#lt;");
  }

  /** For Graphviz: the same. */
  public String dot(List<ColumnOrigin> origins) {
    StringBuilder text = new StringBuilder("digraph columns {\n");
    text.append("  rankdir=LR;\n  node [shape=box, fontname=\"sans-serif\"];\n");
    for (int i = 0; i < origins.size(); i++) {
      ColumnOrigin origin = origins.get(i);
      text.append("  r").append(i).append(" [style=rounded, label=");
      text.append(quoted(origin.heading())).append("];\n");
      for (ColumnOrigin.OfTable from : origin.from()) {
        text.append("  ").append(quoted(from.words())).append(" -> r").append(i);
        text.append(origin.copied() ? ";\n" : " [style=dashed];\n");
      }
    }
    return text.append("}\n").toString();
  }
}
