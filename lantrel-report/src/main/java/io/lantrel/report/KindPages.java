package io.lantrel.report;

import io.lantrel.check.Kind;
import io.lantrel.words.Words;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;

/** The kinds of findings, and the page of each. */
public final class KindPages {

  private final Style style;

  public KindPages(Style style) {
    this.style = style;
  }

  /** A line for each kind: its name, how bad it usually is, and what it is. */
  public String list() {
    int widest = Arrays.stream(Kind.values()).mapToInt(kind -> kind.id().length()).max().orElse(0);
    List<String> lines = new ArrayList<>();
    for (Kind kind : Kind.values()) {
      lines.add(
          style.strong(kind.id())
              + " ".repeat(widest + 2 - kind.id().length())
              + String.format("%-9s", kind.usualSeverity().id())
              + kind.title());
    }
    lines.add("");
    lines.add(
        Words.count(Kind.values().length, "kind")
            + "; lantrel kinds KIND shows the page of one, with examples.");
    return String.join("\n", lines) + "\n";
  }

  /** The page of a kind, as it stands in the documentation. */
  public static String page(Kind kind) {
    String name = "findings/" + kind.page();
    try (InputStream in = KindPages.class.getResourceAsStream(name)) {
      return new String(Objects.requireNonNull(in, name).readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }
}
