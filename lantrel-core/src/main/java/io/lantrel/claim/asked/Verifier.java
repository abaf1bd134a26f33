package io.lantrel.claim.asked;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Constraint;
import io.lantrel.claim.BreakingRows;
import io.lantrel.claim.CheckedClaim;
import io.lantrel.claim.Claim;
import io.lantrel.claim.ClaimException;
import io.lantrel.claim.ClaimFiles;
import io.lantrel.claim.ClaimProblem;
import io.lantrel.claim.Verdict;
import io.lantrel.claim.Verification;
import io.lantrel.claim.kinds.Inquiry;
import io.lantrel.claim.kinds.Meaning;
import io.lantrel.claim.kinds.Meanings;
import io.lantrel.claim.kinds.Outcome;
import io.lantrel.claim.kinds.ResultNames;
import io.lantrel.claim.kinds.ResultRows;
import io.lantrel.claim.kinds.UndecidedException;
import io.lantrel.claim.text.ClaimReader;
import io.lantrel.claim.text.Form;
import io.lantrel.claim.text.ReadClaim;
import io.lantrel.compare.CompareOptions;
import io.lantrel.compare.Comparison;
import io.lantrel.compare.asked.Comparer;
import io.lantrel.compare.asked.Side;
import io.lantrel.edit.OneQuery;
import io.lantrel.engine.DataException;
import io.lantrel.engine.Database;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.ValueText;
import io.lantrel.ledger.LedgerDefect;
import io.lantrel.ledger.RowShare;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.HeldConstraints;
import io.lantrel.probe.Question;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.Resolver;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.Query;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * Finds out whether claims are so: what follows from the structure is proven, and the rest is asked
 * of the rows in one round for all claims of a query; a second one fetches rows that break some.
 */
public final class Verifier {

  private static final String PRESENT = "this query";

  private final Catalog catalog;
  private final @Nullable Database database;
  private final HeldConstraints held;
  private final ClaimFiles files;
  private final int shown;
  private final Function<String, OneQuery> reader;

  /**
   * @param database null if there are no rows; then claims are proven or stay open
   * @param held what is known of the constraints there
   * @param shown how many rows are shown at most that break a claim
   * @param reader reads the text of another query, with the same parameters
   */
  public Verifier(
      Catalog catalog,
      @Nullable Database database,
      HeldConstraints held,
      ClaimFiles files,
      int shown,
      Function<String, OneQuery> reader) {
    this.catalog = catalog;
    this.database = database;
    this.held = held;
    this.files = files;
    this.shown = shown;
    this.reader = reader;
  }

  /** One claim on its way. */
  private static final class Open {
    private final Claim claim;
    private final ReadClaim read;
    private @Nullable Meaning meaning;
    private @Nullable List<Constraint> proof;
    private String unproven = "";
    private @Nullable Inquiry inquiry;
    private @Nullable CheckedClaim done;

    Open(Claim claim, ReadClaim read) {
      this.claim = claim;
      this.read = read;
    }

    void close(Verdict verdict, String reason) {
      done = CheckedClaim.of(claim, verdict, reason);
    }

    boolean isOpen() {
      return done == null;
    }

    void closeIfOpen(String reason) {
      if (isOpen()) {
        close(Verdict.UNDECIDED, reason);
      }
    }

    Meaning.Shown shownByPart() {
      return meaning == null ? Meaning.Shown.NOTHING : meaning.shownByPart();
    }
  }

  /** Claims about a query that has errors: only their words can be looked at. */
  public Verification unread(List<Claim> claims, String why) {
    List<ClaimProblem> problems = new ArrayList<>();
    List<Open> all = read(claims, problems);
    all.forEach(each -> each.close(Verdict.UNDECIDED, why));
    return verification(all, problems, OptionalLong.empty());
  }

  /**
   * Finds out about all these claims.
   *
   * @throws DatabaseException if the database is lost
   */
  public Verification verify(OneQuery query, List<Claim> claims) {
    return verify(query, claims, true);
  }

  /** The same, where of broken ones neither rows nor steps are of interest. */
  Verification verdicts(OneQuery query, List<Claim> claims) {
    return verify(query, claims, false);
  }

  private Verification verify(OneQuery query, List<Claim> claims, boolean explained) {
    List<ClaimProblem> problems = new ArrayList<>();
    ResultNames names = new ResultNames(query.resolution());
    List<Open> all = understood(claims, names, problems);
    Optional<String> obstacle = obstacle(query);
    if (obstacle.isPresent()) {
      all.forEach(each -> concludeWithoutRows(each, obstacle.get()));
      return verification(all, problems, OptionalLong.empty());
    }
    Database rows = Objects.requireNonNull(database);
    OptionalLong count = rows.inSnapshot(() -> ask(all, names, query, rows, explained));
    return verification(all, problems, count);
  }

  /** Those that say something; what follows from the structure is proven as far as that goes. */
  private List<Open> understood(
      List<Claim> claims, ResultNames names, List<ClaimProblem> problems) {
    List<Open> all = read(claims, problems);
    Meanings meanings = new Meanings(names, catalog);
    all.removeIf(each -> !understand(each, meanings, problems));
    prove(all, names);
    return all;
  }

  /**
   * Finds out what a part of the rows tells: what they break is broken, and what is proven is so
   * whatever the rows are; all else stays undecided.
   *
   * @param share how many rows of the first table are looked at
   * @throws DatabaseException if the database is lost
   */
  public Verification verify(OneQuery query, List<Claim> claims, RowShare share) {
    List<ClaimProblem> problems = new ArrayList<>();
    ResultNames names = new ResultNames(query.resolution());
    List<Open> all = understood(claims, names, problems);
    Optional<String> obstacle = obstacle(query);
    OptionalLong count = OptionalLong.empty();
    if (obstacle.isPresent()) {
      all.forEach(each -> concludeWithoutRows(each, obstacle.get()));
    } else {
      Database rows = Objects.requireNonNull(database);
      count = rows.inSnapshot(() -> askPart(all, names, query, share, rows));
    }
    return verification(all, problems, count);
  }

  /**
   * How many levels a query's recursion has, in one statement.
   *
   * @param most more than so many are not told apart
   * @return empty if it has none that can be counted, or there are no rows
   */
  OptionalLong depth(OneQuery query, long most) {
    Optional<Question<Long>> question =
        new Meanings(new ResultNames(query.resolution()), catalog).depth(most);
    if (database == null || question.isEmpty() || obstacle(query).isPresent()) {
      return OptionalLong.empty();
    }
    return new Asker(database)
        .ask(question.stream().toList())
        .ifAny(question.get())
        .map(OptionalLong::of)
        .orElse(OptionalLong.empty());
  }

  private static Verification verification(
      List<Open> all, List<ClaimProblem> problems, OptionalLong rows) {
    return new Verification(
        all.stream().map(each -> Objects.requireNonNull(each.done)).toList(), problems, rows);
  }

  // ---- understanding ----

  private List<Open> read(List<Claim> claims, List<ClaimProblem> problems) {
    List<Open> all = new ArrayList<>();
    for (Claim claim : claims) {
      try {
        all.add(new Open(claim, ClaimReader.read(claim.text(), catalog.dialect())));
      } catch (ClaimException misspelt) {
        problems.add(new ClaimProblem(claim, String.valueOf(misspelt.getMessage())));
      }
    }
    return all;
  }

  private static boolean isComparing(ReadClaim claim) {
    return claim.form() == Form.SAME_ROWS || claim.form() == Form.ROWS_OF;
  }

  /** Whether it says something. */
  private static boolean understand(Open open, Meanings meanings, List<ClaimProblem> problems) {
    if (isComparing(open.read)) {
      return true;
    }
    try {
      open.meaning = meanings.of(open.read);
    } catch (UndecidedException reason) {
      open.close(Verdict.UNDECIDED, String.valueOf(reason.getMessage()));
    } catch (ClaimException strange) {
      problems.add(new ClaimProblem(open.claim, String.valueOf(strange.getMessage())));
      return false;
    }
    return true;
  }

  // ---- proving ----

  private void prove(List<Open> all, ResultNames names) {
    Query extended = names.asked().extended();
    Resolution resolution = Resolver.resolve(extended, catalog);
    if (!resolution.problems().isEmpty()) {
      return;
    }
    Proofs proofs = new Proofs(extended, resolution, catalog);
    all.stream()
        .filter(Open::isOpen)
        .filter(each -> each.meaning != null)
        .forEach(each -> each.proof = proofs.of(Objects.requireNonNull(each.meaning)).orElse(null));
  }

  private static String words(List<Constraint> constraints) {
    return constraints.isEmpty()
        ? "so for any data"
        : "so for any data in which " + Constraint.words(constraints);
  }

  private static void proven(Open open, List<Constraint> proof) {
    open.done =
        new CheckedClaim(
            open.claim, Verdict.PROVEN, words(proof), proof, Optional.empty(), Optional.empty());
  }

  private static void concludeWithoutRows(Open open, @Nullable String obstacle) {
    if (open.isOpen() && open.proof != null) {
      proven(open, open.proof);
    } else if (obstacle != null) {
      open.closeIfOpen(obstacle);
    }
  }

  private Optional<String> obstacle(OneQuery query) {
    if (database == null) {
      return Optional.of("there are no rows here");
    }
    return query
        .query()
        .openParameter()
        .map(parameter -> "the parameter " + parameter.text() + " has no value");
  }

  // ---- asking ----

  private OptionalLong ask(
      List<Open> all, ResultNames names, OneQuery query, Database rows, boolean explained) {
    Asker asker = new Asker(rows);
    checkConstraints(all, rows);
    ResultRows result = new ResultRows(names, shown, catalog.dialect());
    Set<Question<?>> questions = new LinkedHashSet<>(List.of(result.count()));
    questions.addAll(questions(all, result));
    Answers answers = asker.ask(questions);
    OptionalLong count;
    try {
      count = OptionalLong.of(answers.to(result.count()));
    } catch (DatabaseException refused) {
      all.forEach(each -> each.close(Verdict.UNDECIDED, String.valueOf(refused.getMessage())));
      return OptionalLong.empty();
    }
    Map<Open, Outcome> broken = new LinkedHashMap<>();
    for (Open open : all) {
      if (open.isOpen() && open.proof != null) {
        proven(open, open.proof);
      } else if (open.isOpen() && open.inquiry != null) {
        conclude(open, open.inquiry, answers, broken);
      } else if (open.isOpen()) {
        compare(open, query, rows);
      }
    }
    if (explained) {
      Blame blame = new Blame(asker.database(), query.resolution().result().block());
      explain(broken, asker, outcome -> steps(blame, outcome));
    }
    return count;
  }

  /** What tells of those that are neither proven nor compared. */
  private static Set<Question<?>> questions(List<Open> all, ResultRows result) {
    Set<Question<?>> questions = new LinkedHashSet<>();
    for (Open open : all) {
      if (open.isOpen() && open.meaning != null && open.proof == null) {
        open.inquiry = open.meaning.inquiry(result);
        questions.addAll(open.inquiry.questions());
      }
    }
    return questions;
  }

  /**
   * Of a part nothing is told that it cannot know: neither the steps nor how many rows there are.
   */
  private OptionalLong askPart(
      List<Open> all, ResultNames whole, OneQuery query, RowShare share, Database rows) {
    PartOfResult part;
    try {
      Optional<String> refusal = rows.refusal(query.query());
      if (refusal.isPresent()) {
        all.forEach(each -> each.close(Verdict.UNDECIDED, refusal.get()));
        return OptionalLong.empty();
      }
      checkConstraints(all, rows);
      all.forEach(each -> concludeWithoutRows(each, null));
      if (all.stream().noneMatch(Open::isOpen)) {
        return OptionalLong.empty();
      }
      part = PartOfResult.of(query.resolution(), share, catalog, rows);
    } catch (UndecidedException | DatabaseException reason) {
      if (reason instanceof DatabaseException failure && failure.isFatal()) {
        throw failure;
      }
      all.forEach(each -> each.closeIfOpen(String.valueOf(reason.getMessage())));
      return OptionalLong.empty();
    }
    if (part.isWhole()) {
      return ask(all, whole, query, rows, true);
    }
    all.stream()
        .filter(each -> each.shownByPart() == Meaning.Shown.NOTHING)
        .forEach(each -> each.closeIfOpen("only all rows tell whether it is so"));
    ResultNames names = new ResultNames(part.resolution());
    Meanings meanings = new Meanings(names, catalog);
    all.stream().filter(Open::isOpen).forEach(each -> each.meaning = meanings.of(each.read));
    ResultRows result = new ResultRows(names, shown, catalog.dialect());
    Set<Question<?>> questions = questions(all, result);
    Asker asker = new Asker(rows);
    Answers answers = questions.isEmpty() ? new Answers() : asker.ask(questions);
    Map<Open, Outcome> broken = new LinkedHashMap<>();
    for (Open open : all) {
      if (open.isOpen()) {
        Meaning.Shown shows = open.shownByPart();
        conclude(open, Objects.requireNonNull(open.inquiry), answers, broken);
        limit(open, shows, part, broken);
      }
    }
    explain(broken, asker, outcome -> "");
    return OptionalLong.empty();
  }

  /** Takes back what the rows that were looked at cannot know of the others. */
  private static void limit(
      Open open, Meaning.Shown shows, PartOfResult part, Map<Open, Outcome> broken) {
    CheckedClaim told = Objects.requireNonNull(open.done);
    Verdict known = shows == Meaning.Shown.BREACH ? Verdict.BROKEN : Verdict.HOLDS;
    if (told.verdict() == known || told.verdict() == Verdict.UNDECIDED) {
      boolean asked = !Objects.requireNonNull(open.inquiry).questions().isEmpty();
      String looked = " in the part that was looked at: " + part.words();
      open.close(told.verdict(), told.reason() + (asked ? looked : ""));
    } else {
      broken.remove(open);
      String yet = shows == Meaning.Shown.BREACH ? "not broken by " : "not shown by ";
      open.close(Verdict.UNDECIDED, yet + part.words());
    }
  }

  /** A proof that rests on what is not so here is none. */
  private void checkConstraints(List<Open> all, Database rows) {
    Set<Constraint> needed = new LinkedHashSet<>();
    all.stream()
        .filter(each -> each.proof != null)
        .forEach(each -> needed.addAll(Objects.requireNonNull(each.proof)));
    try {
      List<Constraint> broken = held.broken(List.copyOf(needed), rows);
      all.forEach(
          each ->
              unprove(
                  each,
                  broken::contains,
                  missing -> "here it does not hold that " + Constraint.words(missing)));
    } catch (DatabaseException refused) {
      if (refused.isFatal()) {
        throw refused;
      }
      all.forEach(
          each ->
              unprove(
                  each,
                  constraint -> true,
                  untested ->
                      "it could not be tested that "
                          + Constraint.words(untested)
                          + ": "
                          + refused.getMessage()));
    }
  }

  private static void unprove(
      Open open, Predicate<Constraint> which, Function<List<Constraint>, String> words) {
    List<Constraint> found =
        open.proof == null ? List.of() : open.proof.stream().filter(which).toList();
    if (!found.isEmpty()) {
      open.proof = null;
      open.unproven = "; by the schema it would be proven, but " + words.apply(found);
    }
  }

  private static void conclude(
      Open open, Inquiry inquiry, Answers answers, Map<Open, Outcome> broken) {
    Outcome outcome;
    try {
      outcome = inquiry.conclusion().apply(answers);
    } catch (UndecidedException | DatabaseException reason) {
      open.close(Verdict.UNDECIDED, String.valueOf(reason.getMessage()));
      return;
    }
    open.close(outcome.verdict(), outcome.reason() + open.unproven);
    if (outcome.verdict() == Verdict.BROKEN) {
      broken.put(open, outcome);
    }
  }

  /**
   * Some rows of each broken claim, and the steps where they came from, or were lost.
   *
   * @param steps tells these, behind the reason
   */
  private void explain(Map<Open, Outcome> broken, Asker asker, Function<Outcome, String> steps) {
    List<Question<?>> wanted = new ArrayList<>();
    if (shown > 0) {
      broken.values().forEach(each -> each.rows().ifPresent(wanted::add));
    }
    Answers answers = wanted.isEmpty() ? new Answers() : asker.ask(wanted);
    broken.forEach(
        (open, outcome) -> {
          CheckedClaim told = Objects.requireNonNull(open.done);
          String reason = told.reason() + steps.apply(outcome);
          Optional<BreakingRows> rows =
              shown == 0
                  ? outcome.rows().map(any -> breaking(List.of(), outcome))
                  : outcome
                      .rows()
                      .flatMap(answers::ifAny)
                      .map(found -> breaking(found.rows(), outcome));
          open.done =
              new CheckedClaim(
                  open.claim, Verdict.BROKEN, reason, List.of(), rows, Optional.empty());
        });
  }

  private static String steps(Blame blame, Outcome outcome) {
    try {
      return outcome.fault().flatMap(blame::words).map(words -> "; " + words).orElse("");
    } catch (DatabaseException unanswered) {
      if (unanswered.isFatal()) {
        throw unanswered;
      }
      return "; where, is not known: " + unanswered.getMessage();
    } catch (LedgerDefect unbalanced) {
      return "; where, is not known: " + unbalanced.getMessage();
    }
  }

  private static BreakingRows breaking(List<List<@Nullable Object>> found, Outcome outcome) {
    List<List<@Nullable String>> rows = new ArrayList<>();
    for (List<@Nullable Object> row : found) {
      List<@Nullable String> texts = new ArrayList<>();
      row.forEach(value -> texts.add(value == null ? null : ValueText.of(value)));
      rows.add(texts);
    }
    return new BreakingRows(outcome.headings(), rows, outcome.count());
  }

  // ---- comparing ----

  private void compare(Open open, OneQuery query, Database rows) {
    String file = fileName(open.read.rest());
    CompareOptions options = CompareOptions.USUAL.called(PRESENT, file).showing(shown);
    Comparison comparison;
    try {
      Side first = new Side.OfQuery(PRESENT, rows, held, query.resolution());
      Side second =
          open.read.form() == Form.ROWS_OF
              ? new Side.OfTable(files.table(file).called(file))
              : new Side.OfQuery(file, rows, held, reader.apply(files.text(file)).resolution());
      comparison = new Comparer(first, second, options).compared();
    } catch (DataException | SyntaxException unread) {
      open.close(Verdict.UNDECIDED, file + ": " + unread.getMessage());
      return;
    }
    open.done =
        new CheckedClaim(
            open.claim,
            Verdict.of(comparison.verdict()),
            comparison.reason(),
            List.of(),
            Optional.empty(),
            Optional.of(comparison));
  }

  /** The name of a file, with or without quotes. */
  private static String fileName(String written) {
    boolean quoted =
        written.length() > 1
            && "'\"`".indexOf(written.charAt(0)) >= 0
            && written.charAt(written.length() - 1) == written.charAt(0);
    return quoted ? written.substring(1, written.length() - 1) : written;
  }
}
