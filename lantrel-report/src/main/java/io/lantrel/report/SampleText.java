package io.lantrel.report;

import io.lantrel.SampleDifference;
import io.lantrel.sample.Sample;
import io.lantrel.sample.SampledTable;
import io.lantrel.sample.Trait;
import io.lantrel.sample.Trait.Outcome;
import io.lantrel.sample.Trait.Sort;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;

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
   * @param differences what queries show otherwise on it
   */
  public String write(Sample sample, String folder, List<SampleDifference> differences) {
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
      lines.addAll(table(sample, each, width + 2));
    }
    lines.add("");
    aside(lines, "no row there has", absent(sample, width + 2));
    aside(lines, "no room for", of(sample, width + 2, each -> each.outcome() == Outcome.NO_ROOM));
    if (sample.childless() > 0) {
      aside(
          lines,
          "alone",
          wrapped(
              Words.count(sample.childless(), "row")
                  + (sample.childless() == 1 ? " has" : " have")
                  + " partners there and none here, for want of room"));
    }
    if (!sample.masked().isEmpty()) {
      aside(lines, "masked", wrapped(Visible.line(String.join(", ", sample.masked()))));
    }
    List<String> different = new ArrayList<>();
    differences.forEach(
        each ->
            different.addAll(
                wrapped(Visible.line(each.file() + ":" + each.line() + "  " + each.words()))));
    aside(lines, "different", different);
    sample.remarks().forEach(each -> aside(lines, "remark", wrapped(Visible.line(each))));
    return String.join("\n", lines).stripTrailing() + "\n";
  }

  private static String name(SampledTable table) {
    return Visible.line(table.table().name());
  }

  private List<String> table(Sample sample, SampledTable table, int width) {
    String rows =
        table.there() == 0
            ? "no rows there"
            : table.isWhole()
                ? "all " + Words.count(table.there(), "row")
                : Words.number(table.rows().size()) + " of " + Words.count(table.there(), "row");
    List<String> lines = new ArrayList<>();
    lines.add(style.strong(name(table)) + " ".repeat(width - name(table).length()) + rows);
    List<Trait> kept = traits(sample, table, each -> each.outcome() == Outcome.KEPT);
    if (!kept.isEmpty() && !table.isWhole()) {
      lines.addAll(Layout.wrapped(words(kept, "with "), width, style.width()));
    }
    return lines;
  }

  private static List<Trait> traits(Sample sample, SampledTable table, Predicate<Trait> which) {
    return sample.traits().stream()
        .filter(each -> each.table().equals(table.table().name()))
        .filter(which)
        .sorted(Comparator.comparing(each -> each.sort() == Sort.PARTNERS ? 0 : 1))
        .toList();
  }

  /** Partner by partner, then column by column. */
  private static String words(List<Trait> traits, String with) {
    Map<String, Set<String>> partners = new LinkedHashMap<>();
    Map<String, Set<String>> columns = new LinkedHashMap<>();
    traits.forEach(
        each ->
            (each.sort() == Sort.PARTNERS ? partners : columns)
                .computeIfAbsent(each.about(), key -> new LinkedHashSet<>())
                .add(each.words()));
    List<String> parts = new ArrayList<>();
    partners.forEach((of, words) -> parts.add(with + String.join(", ", words) + " of " + of));
    columns.forEach((of, words) -> parts.add((of + " ").stripLeading() + String.join(", ", words)));
    return Visible.line(String.join("; ", parts));
  }

  /** That a number is never below 0 says little; it is in JSON. */
  private List<String> absent(Sample sample, int width) {
    return of(
        sample,
        width,
        each ->
            each.outcome() == Outcome.ABSENT
                && (each.sort() != Sort.VALUE || each.words().equals("NULL")));
  }

  private List<String> of(Sample sample, int width, Predicate<Trait> which) {
    List<String> lines = new ArrayList<>();
    for (SampledTable each : sample.tables()) {
      List<Trait> traits = traits(sample, each, which);
      if (!traits.isEmpty()) {
        List<String> wrapped = Layout.wrapped(words(traits, ""), width + 2, style.width());
        String name = "  " + name(each);
        lines.add(name + " ".repeat(width + 2 - name.length()) + wrapped.get(0).stripLeading());
        lines.addAll(wrapped.subList(1, wrapped.size()));
      }
    }
    return lines;
  }

  private List<String> wrapped(String text) {
    return Layout.wrapped(text, 2, style.width());
  }

  private void aside(List<String> lines, String word, List<String> told) {
    if (!told.isEmpty()) {
      lines.add(style.strong(word));
      lines.addAll(told);
    }
  }
}
