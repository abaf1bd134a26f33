package io.lantrel.compare;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Study;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Pairs of forms that are the same for all data, and pairs that only look so. */
public class ProvenFormsTest {

  private static final Pattern PAIR =
      Pattern.compile(
          "-- (?<title>[^\\n]*)\\n(?<one>SELECT|WITH)(?<first>[^;]*);\\s*(?<second>[^;]*);");

  private static final String NOT_YET = "not proven: ";

  private record Pair(String title, String first, String second) {
    @Override
    public String toString() {
      return title;
    }
  }

  private static List<Pair> pairs(String file) throws IOException {
    List<Pair> pairs = new ArrayList<>();
    try (InputStream text = ProvenFormsTest.class.getResourceAsStream(file)) {
      Matcher matcher =
          PAIR.matcher(
              new String(Objects.requireNonNull(text).readAllBytes(), StandardCharsets.UTF_8));
      while (matcher.find()) {
        pairs.add(
            new Pair(
                matcher.group("title"),
                matcher.group("one") + matcher.group("first"),
                matcher.group("second")));
      }
    }
    return pairs;
  }

  @DataProvider
  static Object[][] same() throws IOException {
    return pairs("same.sql").stream().map(pair -> new Object[] {pair}).toArray(Object[][]::new);
  }

  @DataProvider
  static Object[][] other() throws IOException {
    return pairs("other.sql").stream().map(pair -> new Object[] {pair}).toArray(Object[][]::new);
  }

  /** Of the pairs that are true for all data at least nine of ten are proven. */
  @Test
  public void provesNineOfTen() throws IOException {
    List<Pair> pairs = pairs("same.sql");
    assertThat(pairs).hasSizeGreaterThanOrEqualTo(60);
    long open = pairs.stream().filter(pair -> pair.title().startsWith(NOT_YET)).count();
    assertThat(open * 10).isLessThanOrEqualTo(pairs.size());
  }

  @Test(dataProvider = "same")
  public void provesThatTheyAreTheSame(Object each) {
    Pair pair = (Pair) each;
    Comparison comparison = compared(pair);
    boolean open = pair.title().startsWith(NOT_YET);
    assertThat(comparison.verdict())
        .as(pair + "\n" + comparison)
        .isEqualTo(open ? Verdict.SAME_HERE : Verdict.SAME);
  }

  @Test(dataProvider = "other")
  public void provesNothingOfOthers(Object each) {
    Comparison comparison = compared((Pair) each);
    assertThat(comparison.verdict())
        .as(each + "\n" + comparison)
        .isIn(Verdict.SAME_HERE, Verdict.DIFFERENT);
  }

  private static Comparison compared(Pair pair) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.withoutViolations())) {
      Study first = lantrel.study(pair.first());
      return first.compare(lantrel.study(pair.second()), CompareOptions.USUAL);
    }
  }
}
