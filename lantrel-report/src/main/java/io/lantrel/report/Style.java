package io.lantrel.report;

import io.lantrel.check.Severity;

/**
 * How text is set off: with colours or without. Colours are marks that {@link Visible} turns into
 * colours where the text is written.
 *
 * @param coloured whether the reader shows colours
 * @param width columns of the reader's terminal
 */
public record Style(boolean coloured, int width) {

  /** The narrowest and the widest text that is written. */
  public static final int NARROWEST = 80;

  /** See {@link #NARROWEST}. */
  public static final int WIDEST = 120;

  public Style {
    width = Math.max(NARROWEST, Math.min(WIDEST, width));
  }

  /** Without colours, 100 columns wide. */
  public static Style plain() {
    return new Style(false, 100);
  }

  String strong(String text) {
    return set(text, "1");
  }

  String faint(String text) {
    return set(text, "90");
  }

  String marked(String text) {
    return coloured ? set(text, "1;4") : "«" + text + "»";
  }

  String gone(String text) {
    return set(text, "31");
  }

  String come(String text) {
    return set(text, "32");
  }

  String severity(Severity severity) {
    return set(
        severity.id(),
        switch (severity) {
          case ERROR -> "31";
          case WARNING -> "33";
          case NOTE -> "34";
        });
  }

  private String set(String text, String rendition) {
    return coloured && !text.isEmpty() ? Visible.marked(text, rendition) : text;
  }
}
