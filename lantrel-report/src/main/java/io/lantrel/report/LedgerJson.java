package io.lantrel.report;

import io.lantrel.Study;
import io.lantrel.ledger.Cause;
import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.LedgerOfPart;
import io.lantrel.ledger.OtherJoin;
import io.lantrel.ledger.RowsFound;
import io.lantrel.ledger.WithoutJoin;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Accounts as JSON, as {@link JsonReport} writes other answers. */
public final class LedgerJson {

  private LedgerJson() {}

  /**
   * Ledgers by file and statement.
   *
   * @param statements what {@link #ledger(StudiedFile, Study, Ledger)} gave for each
   * @param failed those that have none
   */
  public static String ledgers(List<Map<String, Object>> statements, List<FailedStatement> failed) {
    return JsonReport.write(
        JsonReport.object(
            "version",
            JsonReport.VERSION,
            "statements",
            statements,
            "failed",
            FailedStatement.json(failed)));
  }

  /** The ledger of one statement, for {@link #ledgers}. */
  public static Map<String, Object> ledger(StudiedFile file, Study study, Ledger ledger) {
    return of(file, study, "ledger", ledger(study, ledger));
  }

  /** The ledger of a part of the rows of one statement, for {@link #ledgers}. */
  public static Map<String, Object> ledger(StudiedFile file, Study study, LedgerOfPart part) {
    return of(
        file,
        study,
        "about",
        JsonReport.object(
            "table", part.table(),
            "looked", part.looked(),
            "of", part.of(),
            "by", part.by(),
            "ledger", ledger(study, part.estimated())));
  }

  /** What joins of another kind would give in one statement, for {@link #ledgers}. */
  public static Map<String, Object> otherJoins(
      StudiedFile file, Study study, List<OtherJoin> others) {
    return of(file, study, "against", others.stream().map(LedgerJson::otherJoin).toList());
  }

  private static Map<String, Object> of(StudiedFile file, Study study, String name, Object answer) {
    return JsonReport.object(
        "file",
        file.name(),
        "statement",
        study.number(),
        "line",
        study.place().line(),
        name,
        answer);
  }

  private static Map<String, Object> otherJoin(OtherJoin other) {
    boolean possible = other.refusal().isEmpty();
    return JsonReport.object(
        "step", other.step(),
        "words", other.words(),
        "instead", other.instead(),
        "rows", other.rows(),
        "otherRows", possible ? other.otherRows() : null,
        "come", other.come().stream().map(LedgerJson::change).toList(),
        "go", other.go().stream().map(LedgerJson::change).toList(),
        "result", other.result(),
        "otherResult", other.other().isPresent() ? other.other().getAsLong() : null,
        "refusal", possible ? null : other.refusal());
  }

  /** What there would be without a join in one statement, for {@link #ledgers}. */
  public static Map<String, Object> without(StudiedFile file, Study study, WithoutJoin without) {
    return of(
        file,
        study,
        "without",
        JsonReport.object(
            "step", without.step(),
            "words", without.words(),
            "along", without.along(),
            "conditions", without.conditions(),
            "uses", without.uses(),
            "rows", without.rows(),
            "otherRows", without.other()));
  }

  static Map<String, Object> ledger(Study study, Ledger ledger) {
    return JsonReport.object(
        "name",
        ledger.name().isEmpty() ? null : ledger.name(),
        "steps",
        ledger.entries().stream().map(entry -> entry(study, entry)).toList(),
        "result",
        ledger.result(),
        "parts",
        ledger.parts().stream().map(part -> ledger(study, part)).toList(),
        "found",
        ledger.found().isEmpty()
            ? null
            : ledger.found().stream().map(found -> found(study, found)).toList(),
        "untold",
        ledger.untold().isEmpty() ? null : ledger.untold());
  }

  private static Map<String, Object> found(Study study, RowsFound found) {
    return JsonReport.object(
        "words", found.words(),
        "place", JsonReport.place(study.place(found.place())),
        "outside", found.outside(),
        "none", found.none(),
        "one", found.one(),
        "several", found.several(),
        "most", found.most(),
        "rows", found.found());
  }

  private static @Nullable Map<String, Object> share(Entry.@Nullable Share share) {
    return share == null ? null : JsonReport.object("rows", share.rows(), "of", share.of());
  }

  private static @Nullable Map<String, Object> partners(Entry.@Nullable Partners partners) {
    return partners == null
        ? null
        : JsonReport.object("left", share(partners.left()), "right", share(partners.right()));
  }

  static Map<String, Object> entry(Study study, Entry entry) {
    return JsonReport.object(
        "kind", JsonReport.lower(entry.kind()),
        "words", entry.words(),
        "place", JsonReport.place(study.place(entry.place())),
        "before", entry.before(),
        "changes", entry.changes().stream().map(LedgerJson::change).toList(),
        "after", entry.after(),
        "promise", entry.promise(),
        "partners", partners(entry.partners()));
  }

  private static Map<String, Object> change(Change change) {
    return JsonReport.object(
        "figure", JsonReport.lower(change.figure()),
        "sign", change.figure().sign(),
        "rows", change.rows(),
        "causes", change.causes().stream().map(LedgerJson::cause).toList());
  }

  private static Map<String, Object> cause(Cause cause) {
    return JsonReport.object(
        "reason",
        cause.reason(),
        "rows",
        cause.rows(),
        "examples",
        JsonReport.rows(cause.examples()));
  }
}
