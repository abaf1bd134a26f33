package io.lantrel.report;

import java.io.FilterWriter;
import java.io.IOException;
import java.io.Writer;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The one place where text becomes harmless for a terminal, a log or a page. Names, values, queries
 * and what databases say may hold anything: characters that clear the screen, set its title or its
 * clipboard, turn the order of letters round or cannot be seen. They are written by their numbers,
 * as {@code \u202e}, which JSON reads back as what they were. Only line feeds and tabs stay.
 *
 * <p>Colours come in as marks that nobody can guess, and become colours here; see {@link Style}.
 */
public final class Visible {

  /** Begins a mark: four noncharacters (Unicode, 23.7), chosen anew for each process. */
  private static final String MARK = mark();

  private static final Pattern MARKS = Pattern.compile(MARK + "([0-9;]*m|r)");

  /** Letters and marks that have no shape of their own. */
  private static final Set<Integer> SHAPELESS =
      Set.of(0x034f, 0x115f, 0x1160, 0x17b4, 0x17b5, 0x3164, 0xffa0);

  private Visible() {}

  private static String mark() {
    // Cheap to start; what is at stake is a colour.
    SplittableRandom chance = new SplittableRandom();
    StringBuilder mark = new StringBuilder();
    for (int i = 0; i < 4; i++) {
      mark.append((char) (0xfdd0 + chance.nextInt(32)));
    }
    return mark.toString();
  }

  /** A text between two changes of how it looks (ECMA-48, select graphic rendition). */
  static String marked(String text, String rendition) {
    return MARK + rendition + "m" + text + MARK + "0m";
  }

  /** Goes back to the beginning of the line. */
  public static String lineStart() {
    return MARK + "r";
  }

  /** Without the marks of colours, as it will be seen. */
  static String withoutMarks(String text) {
    return escaped(text.contains(MARK) ? MARKS.matcher(text).replaceAll("") : text);
  }

  /** Text of one or more lines, as it may be written. */
  public static String of(String text) {
    Matcher marks = MARKS.matcher(text);
    StringBuilder written = new StringBuilder();
    int done = 0;
    while (marks.find()) {
      written.append(escaped(text.substring(done, marks.start())));
      written.append(marks.group(1).equals("r") ? "\r" : "\u001b[" + marks.group(1));
      done = marks.end();
    }
    return done == 0 ? escaped(text) : written.append(escaped(text.substring(done))).toString();
  }

  /** Text that is to stay in one line: what would end the line is written by its number as well. */
  public static String line(String text) {
    return escaped(text).replace("\n", "\\n").replace("\t", "\\t");
  }

  /** A writer that lets nothing else through. Whole texts have to be written at once. */
  public static Writer writer(Writer target) {
    return new FilterWriter(target) {
      @Override
      public void write(int c) throws IOException {
        out.write(escaped(String.valueOf((char) c)));
      }

      @Override
      public void write(char[] text, int offset, int length) throws IOException {
        out.write(of(String.valueOf(text, offset, length)));
      }

      @Override
      public void write(String text, int offset, int length) throws IOException {
        out.write(of(text.substring(offset, offset + length)));
      }
    };
  }

  private static String escaped(String text) {
    boolean harmless = text.codePoints().noneMatch(Visible::isHidden);
    if (harmless) {
      return text;
    }
    StringBuilder seen = new StringBuilder();
    text.codePoints()
        .forEach(
            point -> {
              if (isHidden(point)) {
                for (char unit : Character.toChars(point)) {
                  seen.append(String.format("\\u%04x", (int) unit));
                }
              } else {
                seen.appendCodePoint(point);
              }
            });
    return seen.toString();
  }

  private static boolean isHidden(int point) {
    if (point < 0x7f) {
      return point < ' ' && point != '\n' && point != '\t';
    }
    boolean selector =
        (point >= 0xfe00 && point <= 0xfe0f) || (point >= 0xe0100 && point <= 0xe01ef);
    return selector
        || SHAPELESS.contains(point)
        || switch (Character.getType(point)) {
          case Character.CONTROL,
              Character.FORMAT,
              Character.SURROGATE,
              Character.UNASSIGNED,
              Character.LINE_SEPARATOR,
              Character.PARAGRAPH_SEPARATOR ->
              true;
          default -> false;
        };
  }
}
