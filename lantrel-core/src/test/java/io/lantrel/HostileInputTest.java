package io.lantrel;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.engine.DataException;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Engine;
import io.lantrel.sql.Corpus;
import io.lantrel.sql.Dialect;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Random texts, cut and mixed statements and files: there is always an answer, and never anything
 * but a sentence. At full size with {@code -Dlantrel.hostile=100000}.
 */
public class HostileInputTest {

  private static final int INPUTS = Integer.getInteger("lantrel.hostile", 1_500);

  private static final String SIGNS =
      "'\"`[](){};:,.+-*/%<>=!~@#$^&|?\\\n\r\t\0 \u00e9\u2028\ufeff\ud83d\ude00x0eE_";

  @DataProvider
  static Object[][] dialects() {
    return Corpus.dialects().stream().map(each -> new Object[] {each}).toArray(Object[][]::new);
  }

  @Test(dataProvider = "dialects")
  public void anyTextIsAnswered(Dialect dialect) {
    Random random = new Random(7);
    List<String> corpus = Corpus.statements(dialect);
    Lantrel tables = Lantrel.openSchema(RiverWatchFolder.data().resolve("schema.sql"), dialect);
    for (int i = 0; i < INPUTS / 7; i++) {
      String text =
          switch (i % 4) {
            case 0 -> noise(random);
            case 1 -> cut(random, pick(random, corpus));
            case 2 -> cut(random, pick(random, corpus)) + cut(random, pick(random, corpus));
            default -> pricked(random, pick(random, corpus));
          };
      for (Study study : tables.studies(text)) {
        assertThat(study.inspection()).as(text).isNotNull();
      }
    }
  }

  /** On a database too: what is read runs or is refused, in a sentence. */
  @Test
  public void anyTextIsAnsweredByADatabase() {
    Random random = new Random(8);
    List<String> corpus = Corpus.statements(Dialect.DUCKDB);
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      for (int i = 0; i < INPUTS / 5; i++) {
        String text = pricked(random, cut(random, pick(random, corpus)));
        for (Study study : lantrel.studies(text)) {
          try {
            assertThat(study.result(10)).isNotNull();
          } catch (DatabaseException | IllegalStateException refused) {
            assertThat(refused.getMessage()).as(text).isNotBlank().doesNotContain("driver failed");
          }
        }
      }
    }
  }

  @Test
  public void anyFileIsAnswered() throws IOException {
    Random random = new Random(9);
    Path folder = Scratch.folder("hostile");
    Files.writeString(folder.resolve("schema.sql"), "CREATE TABLE t (a VARCHAR(99), b INTEGER)");
    int loaded = 0;
    for (int i = 0; i < INPUTS / 15; i++) {
      byte[] bytes = ("a,b\n" + file(random)).getBytes(java.nio.charset.StandardCharsets.UTF_8);
      if (i % 5 == 0) {
        bytes[4 + random.nextInt(bytes.length - 4)] = (byte) random.nextInt(256);
      }
      Files.write(folder.resolve("t.csv"), bytes);
      try (Lantrel lantrel = Lantrel.open(folder, Engine.SQLITE)) {
        loaded += lantrel.study("SELECT COUNT(*) FROM t").result().size();
      } catch (DataException told) {
        assertThat(told.getMessage()).startsWith("t.csv").doesNotContain("Exception");
      }
    }
    assertThat(loaded).isGreaterThan(INPUTS / 150);
  }

  private static String file(Random random) {
    List<String> fields =
        List.of(
            "x", "1", "\"\"", "", "\"a\"\"b\"", "\"\r\"", "\"\n\"", "\"", "a\"b", " ", "\u00e9");
    List<String> ends = List.of(",", ",", "\n", "\n", "\r\n", "\r", "");
    StringBuilder file = new StringBuilder();
    for (int i = 0; i < 1 + random.nextInt(5); i++) {
      file.append(pick(random, fields)).append(',').append(random.nextInt(9));
      file.append(random.nextInt(6) == 0 ? pick(random, ends) : "\n");
    }
    return file.toString();
  }

  private static String pick(Random random, List<String> list) {
    return list.get(random.nextInt(list.size()));
  }

  private static String noise(Random random) {
    StringBuilder text = new StringBuilder(random.nextBoolean() ? "SELECT " : "");
    int length = random.nextInt(60);
    for (int i = 0; i < length; i++) {
      text.append(
          random.nextInt(3) == 0
              ? (char) random.nextInt(0x3000)
              : SIGNS.charAt(random.nextInt(SIGNS.length())));
    }
    return text.toString();
  }

  private static String cut(Random random, String text) {
    int from = random.nextInt(3) == 0 ? random.nextInt(text.length()) : 0;
    return text.substring(from, from + 1 + random.nextInt(text.length() - from));
  }

  private static String pricked(Random random, String text) {
    List<String> pieces = new ArrayList<>(List.of(text.split("(?<=\\W)", -1)));
    int many = 1 + random.nextInt(3);
    for (int i = 0; i < many; i++) {
      int at = random.nextInt(pieces.size());
      switch (random.nextInt(3)) {
        case 0 -> pieces.remove(at);
        case 1 -> pieces.add(at, String.valueOf(SIGNS.charAt(random.nextInt(SIGNS.length()))));
        default -> pieces.add(at, pieces.get(random.nextInt(pieces.size())));
      }
      if (pieces.isEmpty()) {
        return "";
      }
    }
    return String.join("", pieces);
  }
}
