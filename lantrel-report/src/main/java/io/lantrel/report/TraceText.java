package io.lantrel.report;

import io.lantrel.trace.Answer;
import io.lantrel.trace.Answer.Source;
import io.lantrel.trace.Answer.TracedValue;
import io.lantrel.trace.ColumnOrigin;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/** What became of rows, as sentences and a tree of the rows behind one. */
public final class TraceText {

  private final Style style;

  public TraceText(Style style) {
    this.style = style;
  }

  /** What became of one row. */
  public String answer(Answer answer) {
    List<String> lines = new ArrayList<>();
    boolean found = !answer.values().isEmpty() && answer.outcome() != Answer.Outcome.LOST;
    if (!answer.sources().isEmpty() && answer.row().startsWith("row ")) {
      lines.add(style.strong(answer.row() + " is put together from"));
      lines.addAll(wrapped(values(answer.values()), "  "));
      lines.addAll(tree(answer.sources(), "  "));
      answer.sentences().forEach(sentence -> lines.addAll(wrapped(sentence, "  ")));
      return String.join("\n", lines) + "\n";
    }
    Layout.wrapped(answer.sentences().get(0), 0, style.width())
        .forEach(line -> lines.add(style.strong(line)));
    answer.sentences().stream().skip(1).forEach(sentence -> lines.addAll(wrapped(sentence, "  ")));
    if (found) {
      lines.addAll(wrapped(values(answer.values()), "  "));
    }
    return String.join("\n", lines) + "\n";
  }

  private static String values(List<TracedValue> values) {
    return values.stream()
        .map(each -> each.name() + " = " + (each.value() == null ? "NULL" : each.value()))
        .collect(Collectors.joining(", "));
  }

  private List<String> tree(List<Source> sources, String indent) {
    List<String> lines = new ArrayList<>();
    for (int i = 0; i < sources.size(); i++) {
      Source source = sources.get(i);
      boolean last = i == sources.size() - 1;
      String branch = last ? "└─ " : "├─ ";
      String name =
          source.table().isEmpty() || source.table().equals(source.use())
              ? source.use()
              : source.table() + " " + source.use();
      String row =
          source.filled().isEmpty()
              ? values(source.values())
              : style.faint(source.filled() + ", so its columns are NULL");
      String below = indent + (last ? "   " : "│  ");
      List<String> wrapped =
          Layout.wrapped(row, 0, style.width() - indent.length() - 5 - name.length());
      lines.add((indent + branch + style.strong(name) + "  " + wrapped.get(0)).stripTrailing());
      wrapped.stream()
          .skip(1)
          .forEach(each -> lines.add(below + " ".repeat(name.length() + 2) + each));
      lines.addAll(tree(source.sources(), below));
    }
    return lines;
  }

  private List<String> wrapped(String text, String indent) {
    return Layout.wrapped(text, indent.length(), style.width());
  }

  /** Where columns come from, as a table. */
  public String origins(List<ColumnOrigin> origins) {
    List<List<String>> rows = new ArrayList<>();
    rows.add(List.of("column", "shows", "comes from").stream().map(style::faint).toList());
    for (ColumnOrigin origin : origins) {
      rows.add(
          List.of(
              style.strong(origin.heading()),
              origin.copied() ? "the same value" : "worked out",
              origin.from().isEmpty()
                  ? style.faint("no column")
                  : origin.from().stream()
                      .map(ColumnOrigin.OfTable::words)
                      .collect(Collectors.joining(", "))));
    }
    return String.join("\n", Layout.table(rows, List.of(false, false, false), 2)) + "\n";
  }
}
