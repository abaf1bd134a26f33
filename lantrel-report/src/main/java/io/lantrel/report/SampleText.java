package io.lantrel.report;

import io.lantrel.sample.Sample;
import io.lantrel.sample.SampledTable;
import io.lantrel.sample.Trait;
import io.lantrel.sample.Trait.Outcome;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/** What a sample has, and what it does not. */
public final class SampleText {

  private final Style style;

  public SampleText(Style style) {
    this.style = style;
  }

  /**
   * The sample in words: first its tables, then what there is not.
   *
   * @param folder where it is, as the user calls it
   */
  public String write(Sample sample, String folder) {
    List<String> lines = new ArrayList<>();
    lines.add(
        style.strong(
            Visible.line(folder)
                + ": "
                + Words.number(sample.size())
                + " of "
                + Words.count(sample.sizeThere(), "row")));
    lines.add("");
    int width = sample.tables().stream().mapToInt(each -> name(each).length()).max().orElse(0);
    for (SampledTable each : sample.tables()) {
      lines.addAll(table(sample, each, width));
    }
    lines.add("");
    aside(lines, "not there", absent(sample));
    aside(lines, "no room for", join(sample, Outcome.NO_ROOM));
    if (sample.childless() > 0) {
      aside(
          lines,
          "alone",
          Words.count(sample.childless(), "row")
              + (sample.childless() == 1 ? " has" : " have")
              + " partners there and none here, for want of room");
    }
    aside(lines, "masked", Visible.line(String.join(", ", sample.masked())));
    sample.remarks().forEach(each -> aside(lines, "remark", Visible.line(each)));
    return String.join("\n", lines).stripTrailing() + "\n";
  }

  private static String name(SampledTable table) {
    return Visible.line(table.table().name());
  }

  private List<String> table(Sample sample, SampledTable table, int width) {
    String rows =
        table.isWhole()
            ? "all " + Words.count(table.there(), "row")
            : Words.number(table.rows().size()) + " of " + Words.count(table.there(), "row");
    List<String> lines = new ArrayList<>();
    lines.add(style.strong(name(table)) + " ".repeat(width + 2 - name(table).length()) + rows);
    List<Trait> kept =
        sample.traits().stream()
            .filter(each -> each.table().equals(table.table().name()))
            .filter(each -> each.outcome() == Outcome.KEPT)
            .toList();
    if (!kept.isEmpty() && !table.isWhole()) {
      lines.addAll(Layout.wrapped(words(kept), width + 2, style.width()));
    }
    return lines;
  }

  /** Column by column, and first what is about partners. */
  private static String words(List<Trait> traits) {
    Map<String, Set<String>> byColumn = new LinkedHashMap<>();
    traits.forEach(
        each ->
            byColumn
                .computeIfAbsent(each.about(), key -> new LinkedHashSet<>())
                .add(each.words().startsWith("its value ") ? "each value" : each.words()));
    return byColumn.entrySet().stream()
        .map(
            each ->
                (each.getKey().isEmpty() ? "" : Visible.line(each.getKey()) + " ")
                    + Visible.line(String.join(", ", each.getValue())))
        .collect(Collectors.joining("; "));
  }

  /** What no row of the database has, as far as partners and names go; the rest is in JSON. */
  private static String absent(Sample sample) {
    return sample.traits().stream()
        .filter(each -> each.outcome() == Outcome.ABSENT && each.about().isEmpty())
        .map(each -> Visible.line("no " + each.table() + " " + each.words()))
        .distinct()
        .collect(Collectors.joining("; "));
  }

  private static String join(Sample sample, Outcome outcome) {
    return sample.traits().stream()
        .filter(each -> each.outcome() == outcome)
        .map(
            each ->
                Visible.line(
                    "a "
                        + each.table()
                        + (each.about().isEmpty() ? " " : " with " + each.about() + " ")
                        + each.words()))
        .distinct()
        .collect(Collectors.joining("; "));
  }

  private void aside(List<String> lines, String word, String text) {
    if (!text.isEmpty()) {
      lines.add(style.strong(word));
      lines.addAll(Layout.wrapped(text, 2, style.width()));
    }
  }
}
