package io.lantrel.report;

import io.lantrel.check.Finding;
import io.lantrel.claim.BreakingRows;
import io.lantrel.claim.CheckedClaim;
import io.lantrel.claim.Claim;
import io.lantrel.claim.ClaimProblem;
import io.lantrel.claim.Verdict;
import io.lantrel.report.VerifiedQuery.State;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Claims for a terminal: a line for each query, and more of what is not as it should be. */
public final class VerifyText {

  private static final int INDENT = 4;
  private static final int WIDEST_CELL = 40;

  private final Style style;
  private final boolean all;

  /**
   * @param all whether claims that are met are told as well
   */
  public VerifyText(Style style, boolean all) {
    this.style = style;
    this.all = all;
  }

  /** All queries, and a last line that sums them up. */
  public String write(List<VerifiedQuery> queries) {
    List<String> lines = new ArrayList<>();
    int widest =
        Math.min(
            60,
            queries.stream()
                .mapToInt(query -> Layout.columns(Visible.line(query.name())))
                .max()
                .orElse(0));
    for (VerifiedQuery query : queries) {
      lines.addAll(query(query, widest));
    }
    lines.add("");
    lines.add(summary(queries));
    return String.join("\n", lines) + "\n";
  }

  private List<String> query(VerifiedQuery query, int widest) {
    List<String> lines = new ArrayList<>();
    lines.add(
        Layout.padded(style.strong(Visible.line(query.name())), widest)
            + "  "
            + Layout.padded(state(query.state()), 8)
            + "  "
            + Stream.of(claims(query), rows(query), findings(query))
                .filter(part -> !part.isEmpty())
                .collect(Collectors.joining(", ")));
    query.obstacle().ifPresent(why -> lines.addAll(indented(why)));
    query.verification().problems().forEach(each -> lines.addAll(problem(each)));
    query.verification().claims().stream()
        .filter(each -> all || !each.verdict().isMet())
        .forEach(each -> lines.addAll(claim(each)));
    query.failures().forEach(each -> lines.addAll(finding(query, each)));
    query.unchecked().forEach(each -> lines.addAll(indented("not checked: " + each)));
    return lines;
  }

  private String state(State state) {
    return switch (state) {
      case FINE -> style.come(state.word());
      case NO_CLAIM -> style.faint(state.word());
      case FAILS -> style.gone(state.word());
      case OPEN -> style.strong(state.word());
    };
  }

  private static String claims(VerifiedQuery query) {
    List<String> parts = new ArrayList<>();
    for (Verdict verdict : Verdict.values()) {
      long count =
          query.verification().claims().stream().filter(each -> each.verdict() == verdict).count();
      if (count > 0) {
        parts.add(count + " " + word(verdict, count));
      }
    }
    int misspelt = query.verification().problems().size();
    if (misspelt > 0) {
      parts.add(misspelt + " misspelt");
    }
    return String.join(", ", parts);
  }

  private static String word(Verdict verdict, long count) {
    return verdict == Verdict.HOLDS && count > 1 ? "hold" : verdict.word();
  }

  private static String rows(VerifiedQuery query) {
    return query.verification().rows().isPresent()
        ? Words.rows(query.verification().rows().getAsLong())
        : "";
  }

  private static String findings(VerifiedQuery query) {
    int count = query.findings().size();
    return count == 0 ? "" : Words.count(count, "finding") + " of check";
  }

  private List<String> indented(String text) {
    return Layout.wrapped(Visible.line(text), INDENT, style.width());
  }

  private List<String> problem(ClaimProblem problem) {
    return Layout.wrapped(
        place(problem.claim()) + style.gone("misspelt") + "  " + Visible.line(problem.message()),
        INDENT,
        style.width());
  }

  private List<String> finding(VerifiedQuery query, Finding finding) {
    String place =
        query.study() == null ? "" : "line " + query.study().place(finding.place()).line() + "  ";
    return Layout.wrapped(
        place
            + style.severity(finding.severity())
            + "  "
            + finding.kind().id()
            + ": "
            + Visible.line(finding.message()),
        INDENT,
        style.width());
  }

  private List<String> claim(CheckedClaim claim) {
    List<String> lines = new ArrayList<>();
    lines.add(
        " ".repeat(INDENT)
            + place(claim.claim())
            + verdict(claim.verdict())
            + "  "
            + style.strong(Visible.line(claim.claim().text())));
    lines.addAll(Layout.wrapped(Visible.line(claim.reason()), INDENT + 2, style.width()));
    claim.rows().ifPresent(rows -> lines.addAll(table(rows)));
    claim
        .comparison()
        .flatMap(each -> each.differences())
        .ifPresent(
            found ->
                new CompareText(style)
                    .differences("this query", "expected", found)
                    .forEach(line -> lines.add("  " + line)));
    return lines;
  }

  /** Where it stands in its file; empty if it does not stand there. */
  private static String place(Claim claim) {
    return claim.place().map(place -> "line " + place.line() + "  ").orElse("");
  }

  private String verdict(Verdict verdict) {
    return switch (verdict) {
      case PROVEN, HOLDS -> style.come(verdict.word());
      case BROKEN -> style.gone(verdict.word());
      case UNDECIDED -> style.strong(verdict.word());
    };
  }

  private List<String> table(BreakingRows rows) {
    if (rows.rows().isEmpty()) {
      return List.of();
    }
    List<List<String>> cells = new ArrayList<>();
    List<Boolean> numbers = new ArrayList<>();
    cells.add(rows.headings().stream().map(each -> style.strong(cut(each))).toList());
    for (List<@Nullable String> row : rows.rows()) {
      List<String> line = new ArrayList<>();
      row.forEach(value -> line.add(cut(Cells.plain(value, false))));
      cells.add(line);
    }
    for (int i = 0; i < rows.headings().size(); i++) {
      int column = i;
      List<String> values =
          rows.rows().stream().flatMap(row -> Stream.ofNullable(row.get(column))).toList();
      numbers.add(
          !values.isEmpty() && values.stream().allMatch(value -> value.matches("-?[0-9][0-9.]*")));
    }
    List<String> lines = new ArrayList<>(Layout.table(cells, numbers, INDENT + 2));
    long more = rows.count() - rows.rows().size();
    if (more > 0) {
      lines.add(" ".repeat(INDENT + 2) + style.faint("and " + Words.number(more) + " more"));
    }
    return lines;
  }

  private static String cut(String text) {
    return Cells.cut(Visible.line(text), WIDEST_CELL);
  }

  /** How many claims have each verdict, in the order of verdicts. */
  static List<Long> counts(VerifiedQuery query) {
    return Stream.of(Verdict.values())
        .map(
            verdict ->
                query.verification().claims().stream()
                    .filter(each -> each.verdict() == verdict)
                    .count())
        .toList();
  }

  /** All of it in one sentence. */
  static String summary(List<VerifiedQuery> queries) {
    List<CheckedClaim> claims =
        queries.stream().flatMap(each -> each.verification().claims().stream()).toList();
    long misspelt = queries.stream().mapToLong(each -> each.verification().problems().size()).sum();
    List<String> parts = new ArrayList<>();
    for (Verdict verdict : Verdict.values()) {
      long count = claims.stream().filter(each -> each.verdict() == verdict).count();
      if (count > 0) {
        parts.add(Words.number(count) + " " + word(verdict, count));
      }
    }
    if (misspelt > 0) {
      parts.add(Words.number(misspelt) + " misspelt");
    }
    long findings = queries.stream().mapToLong(each -> each.failures().size()).sum();
    if (findings > 0) {
      parts.add(Words.count(findings, "finding") + " of check");
    }
    long fails = queries.stream().filter(each -> each.state() == State.FAILS).count();
    long open = queries.stream().filter(each -> each.state() == State.OPEN).count();
    String bad =
        fails + open == 0
            ? ""
            : "; "
                + Stream.of(
                        fails > 0 ? Words.number(fails) + (fails == 1 ? " fails" : " fail") : "",
                        open > 0 ? Words.number(open) + (open == 1 ? " is open" : " are open") : "")
                    .filter(part -> !part.isEmpty())
                    .collect(Collectors.joining(", "));
    return Words.count(queries.size(), "query")
        + ", "
        + Words.count(claims.size() + misspelt, "claim")
        + (parts.isEmpty() ? "" : ": " + String.join(", ", parts))
        + bad
        + ".";
  }
}
