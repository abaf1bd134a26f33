package io.lantrel.report;

import io.lantrel.Study;
import io.lantrel.check.Finding;
import io.lantrel.check.Severity;
import io.lantrel.claim.Verdict;
import io.lantrel.claim.Verification;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.jspecify.annotations.Nullable;

/**
 * A query of a file, and what became of its claims.
 *
 * @param file the file, as people know it
 * @param study the query; null if the file could not be read, or there is no such query
 * @param values the values of its parameters in words; empty if it has none
 * @param verification of its claims
 * @param failing from which severity on findings of check fail it; null for none
 * @param obstacle why it was not looked at; empty if it was
 */
public record VerifiedQuery(
    String file,
    @Nullable Study study,
    String values,
    Verification verification,
    @Nullable Severity failing,
    Optional<String> obstacle) {

  /** What of it stands for a whole run. */
  public enum State {
    /** Every claim is met, and nothing else fails it. */
    FINE("fine"),
    /** It has no claim, and nothing else fails it. */
    NO_CLAIM("no claim"),
    /** A claim is broken or misspelt, or a finding fails it. */
    FAILS("fails"),
    /** Something could not be looked at. */
    OPEN("open");

    private final String word;

    State(String word) {
      this.word = word;
    }

    /** In a word. */
    String word() {
      return word;
    }

    /** The same for programs. */
    String id() {
      return word.replace(' ', '-');
    }
  }

  /** A file that could not be looked at. */
  public static VerifiedQuery unread(String file, String why) {
    Verification nothing = new Verification(List.of(), List.of(), OptionalLong.empty());
    return new VerifiedQuery(file, null, "", nothing, null, Optional.of(why));
  }

  /** The findings of check, whether or not they fail it. */
  public List<Finding> findings() {
    return study == null || failing == null ? List.of() : study.findings();
  }

  /** Those findings that fail it. */
  public List<Finding> failures() {
    return findings().stream()
        .filter(each -> failing != null && each.severity().compareTo(failing) >= 0)
        .toList();
  }

  /** What check could not look at. */
  public List<String> unchecked() {
    return study == null || failing == null ? List.of() : study.inspection().unchecked();
  }

  /** How it stands. */
  public State state() {
    boolean broken =
        verification.claims().stream().anyMatch(each -> each.verdict() == Verdict.BROKEN);
    if (broken || !verification.problems().isEmpty() || !failures().isEmpty()) {
      return State.FAILS;
    }
    boolean open =
        obstacle.isPresent()
            || !unchecked().isEmpty()
            || verification.claims().stream().anyMatch(each -> each.verdict() == Verdict.UNDECIDED);
    return open ? State.OPEN : verification.claims().isEmpty() ? State.NO_CLAIM : State.FINE;
  }

  /** Where it stands: the file, and the line if the file holds several. */
  public String name() {
    String place = study == null || study.number() == 1 ? file : file + ":" + study.place().line();
    return values.isEmpty() ? place : place + " (" + values + ")";
  }
}
