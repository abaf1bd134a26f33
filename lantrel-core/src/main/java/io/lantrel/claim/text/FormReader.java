package io.lantrel.claim.text;

import io.lantrel.sql.Phrase;
import io.lantrel.sql.Phrase.Word;
import io.lantrel.sql.tree.Identifier;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Tries one form on a phrase. */
final class FormReader {

  private final Form form;
  private final Phrase phrase;
  private final List<Word> words;
  private final List<List<Identifier>> names = new ArrayList<>();
  private final List<Boolean> descending = new ArrayList<>();
  private int at;
  private long number;
  private String rest = "";
  private @Nullable String condition;

  FormReader(Form form, Phrase phrase) {
    this.form = form;
    this.phrase = phrase;
    this.words = phrase.words();
  }

  /** The claim, if it is written so. */
  Optional<ReadClaim> read() {
    for (String piece : form.pieces()) {
      if (!take(piece)) {
        return Optional.empty();
      }
    }
    return at == words.size()
        ? Optional.of(
            new ReadClaim(form, names, descending, number, rest, Optional.ofNullable(condition)))
        : Optional.empty();
  }

  private boolean take(String piece) {
    return switch (piece) {
      case "{names}" -> takeNames(false);
      case "{order}" -> takeNames(true);
      case "{name}" -> takeName();
      case "{number}" -> takeNumber();
      case "{rest}" -> takeRest();
      case "[where]" -> takeCondition();
      default -> takeWord(piece);
    };
  }

  private boolean takeWord(String piece) {
    boolean taken = at < words.size() && Form.words(piece).anyMatch(words.get(at)::is);
    at += taken ? 1 : 0;
    return taken;
  }

  private boolean takeSign(String sign) {
    boolean taken = at < words.size() && words.get(at).text().equals(sign);
    at += taken ? 1 : 0;
    return taken;
  }

  private boolean takeNames(boolean ordered) {
    do {
      if (!takeName()) {
        return false;
      }
      boolean down = ordered && takeWord("desc|descending");
      if (ordered && !down) {
        takeWord("asc|ascending");
      }
      descending.add(down);
    } while (takeSign(","));
    return true;
  }

  private boolean takeName() {
    List<Identifier> parts = new ArrayList<>();
    do {
      if (at == words.size()
          || words.get(at).kind() == Phrase.Kind.NUMBER
          || words.get(at).kind() == Phrase.Kind.OTHER
          || words.get(at).text().isEmpty()) {
        return false;
      }
      parts.add(words.get(at++).name());
    } while (takeSign("."));
    return names.add(parts);
  }

  private boolean takeNumber() {
    if (at == words.size() || !words.get(at).text().matches("[0-9]{1,18}")) {
      return false;
    }
    number = Long.parseLong(words.get(at++).text());
    return true;
  }

  private boolean takeRest() {
    if (at == words.size()) {
      return false;
    }
    rest = phrase.text().substring(words.get(at).span().start()).strip();
    at = words.size();
    return true;
  }

  private boolean takeCondition() {
    if (at == words.size()) {
      return true;
    }
    boolean where = takeWord("where");
    if (where && takeRest()) {
      condition = rest;
      rest = "";
      return true;
    }
    return false;
  }
}
