package io.lantrel.report;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.StringWriter;
import java.io.Writer;
import java.util.stream.IntStream;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What reaches a terminal. */
public class VisibleTest {

  @DataProvider
  static Object[][] texts() {
    return new Object[][] {
      {
        "plain \u00e9\u4e2d\ud83d\ude00 \u00a0 a\u0301",
        "plain \u00e9\u4e2d\ud83d\ude00 \u00a0 a\u0301"
      },
      {"two\nlines\tand a tab", "two\nlines\tand a tab"},
      {"\u001b[2J\u001b]52;c;aGk=\u0007", "\\u001b[2J\\u001b]52;c;aGk=\\u0007"},
      {"\u001b[31mred\u001b[0m", "\\u001b[31mred\\u001b[0m"},
      {"a\rb\bc\u007f\u009b2J", "a\\u000db\\u0008c\\u007f\\u009b2J"},
      {"user\u202eexe.gpj", "user\\u202eexe.gpj"},
      {"a\u200bb\u200dc\u2060d\ufeffe\u00adf", "a\\u200bb\\u200dc\\u2060d\\ufeffe\\u00adf"},
      {"\u2028\u2029", "\\u2028\\u2029"},
      {"\udb40\udc41 tag", "\\udb40\\udc41 tag"},
      {"\ud800 half", "\\ud800 half"},
      {"\u3164\u115f\ufe0f", "\\u3164\\u115f\\ufe0f"},
      {"\ufdd0\ufdd1\ufdd2\ufdd331m guess", "\\ufdd0\\ufdd1\\ufdd2\\ufdd331m guess"},
    };
  }

  @Test(dataProvider = "texts")
  public void whatCannotBeSeenIsWrittenByItsNumber(String text, String seen) throws IOException {
    assertThat(Visible.of(text)).isEqualTo(seen);
    StringWriter target = new StringWriter();
    try (Writer writer = Visible.writer(target)) {
      writer.write(text);
    }
    assertThat(target).hasToString(seen);
  }

  @Test
  public void coloursAreOurs() {
    Style style = new Style(true, 100);
    assertThat(Visible.of(style.strong("a\u001b[31mb") + "c\n"))
        .isEqualTo("\u001b[1ma\\u001b[31mb\u001b[0mc\n");
    assertThat(Layout.columns(style.severity(io.lantrel.check.Severity.ERROR))).isEqualTo(5);
    assertThat(Visible.of(Visible.lineStart() + "x")).isEqualTo("\rx");
  }

  @Test
  public void oneLineStaysOneLine() {
    assertThat(Visible.line("a\nb\tc\u0000")).isEqualTo("a\\nb\\tc\\u0000");
  }

  /** What became visible in JSON is read back as what it was. */
  @Test
  public void jsonMeansTheSame() throws JsonProcessingException {
    ObjectMapper json = new ObjectMapper();
    StringBuilder all = new StringBuilder();
    IntStream.range(0, 0x3000).forEach(all::appendCodePoint);
    all.append("\udb40\udc41");
    String written = Visible.of(json.writeValueAsString(all.toString()));
    assertThat(json.readValue(written, String.class)).isEqualTo(all.toString());
    assertThat(written.codePoints()).noneMatch(c -> c < ' ' || c == 0x202e || c == 0x200b);
  }
}
