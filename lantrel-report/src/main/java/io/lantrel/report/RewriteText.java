package io.lantrel.report;

import io.lantrel.Rewriting;
import io.lantrel.Study;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A query in another form, and what running both told. */
public final class RewriteText {

  private final Style style;

  public RewriteText(Style style) {
    this.style = style;
  }

  /**
   * One query.
   *
   * @param rewriting null if it could not be brought into the form
   * @param refusal why not
   */
  public String write(String file, Study study, @Nullable Rewriting rewriting, String refusal) {
    List<String> lines = new ArrayList<>();
    lines.add(style.strong(FindingText.place(file, study.place())));
    if (rewriting == null) {
      lines.addAll(Layout.wrapped("Not rewritten: " + refusal + ".", 2, style.width()));
      return String.join("\n", lines) + "\n\n";
    }
    if (!rewriting.isChanged()) {
      lines.add("  It has " + rewriting.has() + " already.");
      if (rewriting.rows().isEmpty() && rewriting.difference().isEmpty()) {
        return String.join("\n", lines) + "\n\n";
      }
    } else {
      lines.add("");
      rewriting.sql().lines().forEach(line -> lines.add(("    " + line).stripTrailing()));
      lines.add("");
    }
    String told =
        rewriting
            .difference()
            .map(row -> style.gone("The rows are not the same") + ": " + row + ".")
            .orElseGet(() -> same(rewriting));
    lines.addAll(Layout.wrapped(told, 2, style.width()));
    for (String remark : rewriting.remarks()) {
      String sentence = Character.toUpperCase(remark.charAt(0)) + remark.substring(1) + ".";
      lines.addAll(Layout.wrapped(sentence, 2, style.width()));
    }
    return String.join("\n", lines) + "\n\n";
  }

  private static String same(Rewriting rewriting) {
    String here =
        rewriting.rows().isPresent()
            ? "The same " + Words.count(rewriting.rows().getAsLong(), "row") + " before and after"
            : "Not compared";
    return here
        + rewriting.provenFor().map(data -> "; proven to be the same for " + data).orElse("")
        + ".";
  }
}
