package io.lantrel.report;

import com.github.difflib.DiffUtils;
import com.github.difflib.UnifiedDiffUtils;
import java.util.List;

/** What changes between two texts, in the unified format that patch reads. */
public final class UnifiedDiff {

  private static final int CONTEXT = 3;

  private UnifiedDiff() {}

  /**
   * The difference; empty if there is none.
   *
   * @param file what the text is called
   */
  public static String between(String file, String before, String after) {
    List<String> old = lines(before);
    List<String> lines =
        UnifiedDiffUtils.generateUnifiedDiff(
            file, file, old, DiffUtils.diff(old, lines(after)), CONTEXT);
    return lines.isEmpty() ? "" : String.join("\n", lines) + "\n";
  }

  /** A carriage return stays a part of its line. */
  private static List<String> lines(String text) {
    List<String> lines = List.of(text.split("\n", -1));
    return text.endsWith("\n") ? lines.subList(0, lines.size() - 1) : lines;
  }
}
