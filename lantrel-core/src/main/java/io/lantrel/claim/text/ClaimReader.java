package io.lantrel.claim.text;

import io.lantrel.claim.ClaimException;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.Phrase;
import io.lantrel.sql.Phrase.Word;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;

/** Reads claims, and says what a misspelt one may have meant. */
public final class ClaimReader {

  /** So much of a text is repeated in a message. */
  private static final int LONGEST = 200;

  private ClaimReader() {}

  /**
   * Reads one.
   *
   * @param dialect how names and values in it are written
   * @throws ClaimException if it is written in none of the forms
   */
  public static ReadClaim read(String text, Dialect dialect) {
    Phrase phrase = Phrase.of(text, dialect);
    return ifAny(phrase).orElseThrow(() -> new ClaimException(complaint(phrase, dialect)));
  }

  /** Whether it is written in one of the forms. */
  static boolean isOne(String text, Dialect dialect) {
    return ifAny(Phrase.of(text, dialect)).isPresent();
  }

  /** Whether much of one of the forms is there. */
  static boolean isNearOne(String text, Dialect dialect) {
    Phrase phrase = Phrase.of(text, dialect);
    return !phrase.words().isEmpty() && !attempts(phrase).isEmpty();
  }

  private static Optional<ReadClaim> ifAny(Phrase phrase) {
    return Arrays.stream(Form.values())
        .flatMap(form -> new FormReader(form, phrase).read().stream())
        .findFirst();
  }

  /** A word of a form, and the one in the text that may stand for it. */
  private record Match(Word written, String meant) {}

  private record Attempt(Form form, List<Match> matches, int wanted) {
    double share() {
      return (double) matches.size() / wanted;
    }

    int slips() {
      return (int) matches.stream().filter(each -> !each.written().is(each.meant())).count();
    }
  }

  private static String complaint(Phrase phrase, Dialect dialect) {
    if (phrase.words().isEmpty()) {
      return "this claim says nothing; it could be: " + Form.ONE_ROW_PER.example();
    }
    List<Attempt> attempts = attempts(phrase);
    Optional<String> meant =
        attempts.stream()
            .map(each -> corrected(phrase, each))
            .filter(text -> ifAny(Phrase.of(text, dialect)).isPresent())
            .findFirst();
    if (meant.isPresent()) {
      return quoted(phrase) + " is no claim; near it is: " + meant.get();
    }
    return quoted(phrase)
        + " is no claim; "
        + attempts.stream()
            .findFirst()
            .map(each -> "one is written: " + each.form().example())
            .orElseGet(() -> "claims are: " + all());
  }

  private static String quoted(Phrase phrase) {
    String text = phrase.text();
    return "\"" + (text.length() > LONGEST ? text.substring(0, LONGEST) + "…" : text) + "\"";
  }

  private static List<Attempt> attempts(Phrase phrase) {
    return Arrays.stream(Form.values())
        .map(form -> attempt(form, phrase))
        .filter(each -> each.share() > 0.5 || each.matches().size() > 1)
        .sorted(
            Comparator.<Attempt>comparingInt(each -> each.matches().size())
                .thenComparing(Attempt::share)
                .reversed()
                .thenComparing(Attempt::slips))
        .toList();
  }

  private static String all() {
    return Arrays.stream(Form.values()).map(Form::example).collect(Collectors.joining("; "));
  }

  /**
   * How much of a form is there, in order, perhaps with slips of the pen: the longest common
   * subsequence of its words and those of the text (R. Wagner, M. Fischer: The String-to-String
   * Correction Problem, 1974), where an exact word counts more than a near one.
   */
  private static Attempt attempt(Form form, Phrase phrase) {
    List<String> pieces = form.pieces().stream().filter(piece -> !Form.isSlot(piece)).toList();
    List<Word> words = phrase.words();
    int[][] best = new int[pieces.size() + 1][words.size() + 1];
    for (int i = pieces.size() - 1; i >= 0; i--) {
      for (int j = words.size() - 1; j >= 0; j--) {
        int both = worth(pieces.get(i), words.get(j));
        best[i][j] =
            Math.max(
                both == 0 ? 0 : both + best[i + 1][j + 1],
                Math.max(best[i + 1][j], best[i][j + 1]));
      }
    }
    List<Match> matches = new ArrayList<>();
    int i = 0;
    int j = 0;
    while (i < pieces.size() && j < words.size()) {
      int both = worth(pieces.get(i), words.get(j));
      if (both > 0 && best[i][j] == both + best[i + 1][j + 1]) {
        matches.add(new Match(words.get(j), meant(pieces.get(i), words.get(j))));
        i++;
        j++;
      } else if (best[i][j] == best[i + 1][j]) {
        i++;
      } else {
        j++;
      }
    }
    return new Attempt(form, matches, pieces.size());
  }

  private static int worth(String piece, Word word) {
    return Form.words(piece).anyMatch(word::is)
        ? 3
        : Form.words(piece).anyMatch(each -> isNear(word, each)) ? 2 : 0;
  }

  private static String meant(String piece, Word word) {
    return Form.words(piece)
        .filter(each -> word.is(each) || isNear(word, each))
        .min(
            Comparator.comparingInt(
                each -> NearNames.distance(word.text().toLowerCase(Locale.ROOT), each)))
        .orElse(piece);
  }

  /** Two letters of three say little; of long words three may be wrong. */
  private static boolean isNear(Word word, String meant) {
    int slips = meant.length() > 6 ? 3 : meant.length() > 3 ? 2 : 1;
    return word.kind() == Phrase.Kind.WORD
        && word.text().length() > 1
        && NearNames.distance(word.text().toLowerCase(Locale.ROOT), meant) <= slips;
  }

  private static String corrected(Phrase phrase, Attempt attempt) {
    StringBuilder text = new StringBuilder(phrase.text());
    for (int i = attempt.matches().size() - 1; i >= 0; i--) {
      Match match = attempt.matches().get(i);
      if (!match.written().is(match.meant())) {
        text.replace(match.written().span().start(), match.written().span().end(), match.meant());
      }
    }
    return text.toString().strip();
  }
}
