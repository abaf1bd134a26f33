package io.lantrel.report;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import io.lantrel.Rewriting;
import io.lantrel.Study;
import io.lantrel.catalog.Table;
import io.lantrel.check.Evidence;
import io.lantrel.check.Finding;
import io.lantrel.check.Kind;
import io.lantrel.check.Repair;
import io.lantrel.claim.CheckedClaim;
import io.lantrel.compare.Comparison;
import io.lantrel.compare.Differences;
import io.lantrel.draft.Draft;
import io.lantrel.engine.NamedRow;
import io.lantrel.engine.ValueText;
import io.lantrel.hierarchy.Hierarchy;
import io.lantrel.hierarchy.OverJunction;
import io.lantrel.hierarchy.RowsBetween;
import io.lantrel.rows.ShownRows;
import io.lantrel.rows.StepRows;
import io.lantrel.sql.Edit;
import io.lantrel.sql.Place;
import io.lantrel.trace.Answer;
import io.lantrel.trace.ColumnOrigin;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Answers as JSON. The schemas in {@code docs/schemas} describe them; {@code version} changes when
 * a reader of the old form could misunderstand the new one.
 */
public final class JsonReport {

  static final int VERSION = 1;

  private static final ObjectMapper MAPPER =
      new ObjectMapper().enable(SerializationFeature.INDENT_OUTPUT);

  /** The kinds of findings, with their pages. */
  public static String kinds(List<Kind> kinds) {
    return write(
        object(
            "version",
            VERSION,
            "kinds",
            kinds.stream()
                .map(
                    kind ->
                        object(
                            "kind", kind.id(),
                            "title", kind.title(),
                            "severity", kind.usualSeverity().id(),
                            "page", KindPages.page(kind)))
                .toList()));
  }

  /** What was checked. */
  public String check(List<StudiedFile> files) {
    return write(
        object(
            "version",
            VERSION,
            "incomplete",
            files.stream()
                .flatMap(file -> file.studies().stream())
                .filter(study -> !study.inspection().isComplete())
                .count(),
            "empty",
            files.stream().filter(file -> file.studies().isEmpty()).map(StudiedFile::name).toList(),
            "statements",
            files.stream()
                .flatMap(file -> file.studies().stream().map(study -> statement(file, study)))
                .toList()));
  }

  private static Map<String, Object> statement(StudiedFile file, Study study) {
    return object(
        "file", file.name(),
        "statement", study.number(),
        "line", study.place().line(),
        "understood", study.isUnderstood(),
        "refused", study.inspection().refusal().orElse(null),
        "complete", study.inspection().isComplete(),
        "unchecked", study.inspection().unchecked(),
        "remarks", study.inspection().remarks(),
        "tablesWithoutReference", study.inspection().unrelated().stream().map(Table::name).toList(),
        "findings", study.findings().stream().map(finding -> finding(study, finding)).toList(),
        "accepted",
            study.inspection().excepted().stream()
                .map(
                    each ->
                        object(
                            "kind", each.finding().kind().id(),
                            "reason", each.reason(),
                            "place", place(study.place(each.finding().place()))))
                .toList());
  }

  static Map<String, Object> finding(Study study, Finding finding) {
    return object(
        "kind", finding.kind().id(),
        "severity", finding.severity().id(),
        "message", finding.message(),
        "place", place(study.place(finding.place())),
        "evidence", evidence(finding.evidence()),
        "repair", finding.repair().map(JsonReport::repair).orElse(null));
  }

  static Map<String, Object> place(Place place) {
    return object(
        "offset", place.offset(),
        "length", place.length(),
        "line", place.line(),
        "column", place.column(),
        "endLine", place.endLine(),
        "endColumn", place.endColumn());
  }

  private static Map<String, Object> evidence(Evidence evidence) {
    return object(
        "figures", evidence.figures(), "rows", rows(evidence.rows()), "facts", evidence.facts());
  }

  static List<Map<String, Object>> rows(List<NamedRow> rows) {
    return rows.stream().map(JsonReport::row).toList();
  }

  private static Map<String, Object> row(NamedRow row) {
    Map<String, @Nullable Object> values = new LinkedHashMap<>();
    for (int i = 0; i < row.columns().size(); i++) {
      values.put(row.columns().get(i), row.values().get(i));
    }
    return object(
        "table",
        row.table(),
        "values",
        values,
        "with",
        row.with().isEmpty() ? null : rows(row.with()));
  }

  private static Map<String, Object> repair(Repair repair) {
    return object(
        "edits",
        repair.edits().stream().map(JsonReport::edit).toList(),
        "sql",
        repair.sql(),
        "rowsBefore",
        repair.rowsBefore().isPresent() ? repair.rowsBefore().getAsLong() : null,
        "rowsAfter",
        repair.rowsAfter().isPresent() ? repair.rowsAfter().getAsLong() : null);
  }

  private static Map<String, Object> edit(Edit edit) {
    return object(
        "offset", edit.span().start(), "length", edit.span().length(), "text", edit.text());
  }

  /** Drafts, each with what studying it told. */
  public String drafts(List<StudiedDraft> drafts) {
    List<Object> all = new ArrayList<>();
    for (StudiedDraft each : drafts) {
      Draft draft = each.draft();
      Study study = each.study();
      all.add(
          object(
              "sql", draft.sql(),
              "reading", draft.reading(),
              "reasons", draft.reasons(),
              "form", draft.form(),
              "promises", each.promises().stream().map(JsonReport::promise).toList(),
              "refused", study.inspection().refusal().orElse(null),
              "findings",
                  study.findings().stream().map(finding -> finding(study, finding)).toList(),
              "ledger",
                  each.ledger().map(ledger -> LedgerJson.ledger(study, ledger)).orElse(null)));
    }
    return write(object("version", VERSION, "drafts", all));
  }

  private static Map<String, Object> promise(CheckedClaim each) {
    return object("claim", each.claim().text(), "verdict", each.verdict().word());
  }

  /**
   * One query in another form, for {@link #rewritings}.
   *
   * @param rewriting null if it could not be brought into the form
   * @param refusal why not
   */
  public Map<String, Object> rewriting(
      StudiedFile file, Study study, @Nullable Rewriting rewriting, String refusal) {
    if (rewriting == null) {
      return object(
          "file", file.name(),
          "statement", study.number(),
          "line", study.place().line(),
          "refused", refusal);
    }
    return object(
        "file", file.name(),
        "statement", study.number(),
        "line", study.place().line(),
        "sql", rewriting.sql(),
        "changed", rewriting.isChanged(),
        "rows", rewriting.rows().isPresent() ? rewriting.rows().getAsLong() : null,
        "difference", rewriting.difference().orElse(null),
        "provenFor", rewriting.provenFor().orElse(null),
        "remarks", rewriting.remarks());
  }

  /** Queries in another form. */
  public String rewritings(List<?> statements) {
    return write(object("version", VERSION, "statements", statements));
  }

  /** Rows of queries, by file and statement. */
  public String rowsOfAll(List<?> statements, List<FailedStatement> failed) {
    return write(
        object(
            "version", VERSION, "statements", statements, "failed", FailedStatement.json(failed)));
  }

  /** A table that refers to itself, as trees. */
  public String hierarchy(Hierarchy hierarchy) {
    return write(
        object(
            "version", VERSION,
            "table", hierarchy.table().name(),
            "by", hierarchy.reference().fromColumns(),
            "over", hierarchy.junction().map(JsonReport::over).orElse(null),
            "sum", hierarchy.sum().isEmpty() ? null : hierarchy.sum(),
            "rows", hierarchy.rows(),
            "levels", hierarchy.levels(),
            "trees", hierarchy.trees().stream().map(JsonReport::node).toList(),
            "hidden", hierarchy.hidden(),
            "circles", hierarchy.circles().stream().map(JsonReport::rows).toList(),
            "belowCircles", hierarchy.belowCircles()));
  }

  /** What lies between two rows of a hierarchy. */
  public String between(RowsBetween between) {
    return write(
        object(
            "version", VERSION,
            "table", between.reference().from().name(),
            "by", between.reference().fromColumns(),
            "common", between.common().map(row -> rows(List.of(row)).get(0)).orElse(null),
            "distance", between.distance().isPresent() ? between.distance().getAsInt() : null,
            "up", rows(between.up()),
            "down", rows(between.down())));
  }

  private static Map<String, Object> over(OverJunction over) {
    return object(
        "table", over.table().name(),
        "below", over.below().fromColumns(),
        "pairs", over.pairs(),
        "broken", over.broken(),
        "sharing", over.sharing(),
        "shared",
            over.shared().stream()
                .map(each -> object("row", rows(List.of(each.row())).get(0), "above", each.above()))
                .toList());
  }

  private static Map<String, Object> node(Hierarchy.Node node) {
    return object(
        "row", rows(List.of(node.row())).get(0),
        "level", node.level(),
        "rows", node.size(),
        "sum", node.sum().orElse(null),
        "refersTo", node.refersTo().isEmpty() ? null : node.refersTo(),
        "hidden", node.hidden(),
        "below", node.below().stream().map(JsonReport::node).toList());
  }

  /** What became of rows, each made by {@link #answer}. */
  public String answers(List<?> answers, List<FailedStatement> failed) {
    return write(
        object("version", VERSION, "answers", answers, "failed", FailedStatement.json(failed)));
  }

  /** What became of one row, for {@link #answers}. */
  public Map<String, Object> answer(StudiedFile file, Study study, Answer answer) {
    return object(
        "file", file.name(),
        "statement", study.number(),
        "line", study.place().line(),
        "row", answer.row(),
        "outcome", answer.outcome().id(),
        "step", answer.stage().map(JsonReport::step).orElse(null),
        "block",
            answer.stage().map(Answer.Stage::block).filter(name -> !name.isEmpty()).orElse(null),
        "condition", answer.condition().isEmpty() ? null : answer.condition(),
        "values", traced(answer.values()),
        "sources", answer.sources().stream().map(JsonReport::source).toList(),
        "sentences", answer.sentences());
  }

  /** The number of a join, or the name of a clause. */
  private static Object step(Answer.Stage stage) {
    return stage.kind() == Answer.Kind.JOIN ? stage.join() : stage.id();
  }

  private static List<Map<String, Object>> traced(List<Answer.TracedValue> values) {
    return values.stream().map(each -> object("name", each.name(), "value", each.value())).toList();
  }

  private static Map<String, Object> source(Answer.Source source) {
    return object(
        "use", source.use(),
        "table", source.table(),
        "filled", source.filled().isEmpty() ? null : source.filled(),
        "values", traced(source.values()),
        "sources", source.sources().stream().map(JsonReport::source).toList());
  }

  /** Where columns come from, each statement's made by {@link #origins}. */
  public String originsOfAll(List<?> statements, List<FailedStatement> failed) {
    return write(
        object(
            "version", VERSION, "statements", statements, "failed", FailedStatement.json(failed)));
  }

  /** Where the columns of one statement come from, for {@link #originsOfAll}. */
  public Map<String, Object> origins(StudiedFile file, Study study, List<ColumnOrigin> origins) {
    return object(
        "file", file.name(),
        "statement", study.number(),
        "line", study.place().line(),
        "columns",
            origins.stream()
                .map(
                    each ->
                        object(
                            "column", each.heading(),
                            "value", each.value(),
                            "copied", each.copied(),
                            "from",
                                each.from().stream()
                                    .map(of -> object("table", of.table(), "column", of.column()))
                                    .toList()))
                .toList());
  }

  /** The rows of one statement's result, for {@link #rowsOfAll}. */
  public Map<String, Object> rows(StudiedFile file, Study study, ShownRows rows) {
    return object(
        "file", file.name(),
        "statement", study.number(),
        "line", study.place().line(),
        "result", shown(rows));
  }

  /** The rows after steps of one statement, for {@link #rowsOfAll}. */
  public Map<String, Object> rows(StudiedFile file, Study study, List<StepRows> steps) {
    return object(
        "file", file.name(),
        "statement", study.number(),
        "line", study.place().line(),
        "steps",
            steps.stream()
                .map(
                    each ->
                        object(
                            "number", each.number(),
                            "entry", LedgerJson.entry(study, each.entry()),
                            "rows", shown(each.rows())))
                .toList());
  }

  private static Map<String, Object> shown(ShownRows rows) {
    return object(
        "columns",
        rows.headings().stream()
            .map(
                each ->
                    object(
                        "name", each.name(),
                        "table", each.table().isEmpty() ? null : each.table(),
                        "added", each.added()))
            .toList(),
        "count",
        rows.count(),
        "rows",
        rows.rows().stream().map(JsonReport::shown).toList());
  }

  private static @Nullable Object plain(@Nullable Object value) {
    boolean plain = value instanceof Number || value instanceof Boolean;
    return value == null || plain ? value : ValueText.of(value);
  }

  private static Map<String, Object> shown(List<ShownRows.Cell> row) {
    List<@Nullable Object> values = new ArrayList<>();
    List<Integer> filled = new ArrayList<>();
    for (int i = 0; i < row.size(); i++) {
      values.add(plain(row.get(i).value()));
      if (row.get(i).filled()) {
        filled.add(i);
      }
    }
    return object("values", values, "filled", filled);
  }

  static String lower(Enum<?> constant) {
    return constant.name().toLowerCase(Locale.ROOT);
  }

  /** Comparisons of pairs, for the schema {@code compare}. */
  public String comparisons(List<ComparedPair> pairs) {
    return write(
        object("version", 1, "pairs", pairs.stream().map(JsonReport::comparison).toList()));
  }

  private static Map<String, Object> comparison(ComparedPair pair) {
    Comparison comparison = pair.comparison();
    return object(
        "a", pair.first(),
        "b", pair.second(),
        "verdict", comparison.verdict().id(),
        "reason", comparison.reason(),
        "rowsOfA", comparison.first().isPresent() ? comparison.first().getAsLong() : null,
        "rowsOfB", comparison.second().isPresent() ? comparison.second().getAsLong() : null,
        "headings", comparison.headings(),
        "remarks", comparison.remarks(),
        "differences", comparison.differences().map(JsonReport::differences).orElse(null));
  }

  static Map<String, Object> differences(Differences differences) {
    return object(
        "headings", differences.headings(),
        "key", differences.key().stream().map(differences.headings()::get).toList(),
        "onlyInA", differences.onlyFirst(),
        "onlyInB", differences.onlySecond(),
        "changed", differences.changed(),
        "complete", !differences.hasMore(),
        "rows", differences.lone().stream().map(JsonReport::loneRow).toList(),
        "changes", differences.changes().stream().map(each -> change(each, differences)).toList());
  }

  private static Map<String, Object> loneRow(Differences.LoneRow row) {
    return object(
        "values", values(row.values()), "timesInA", row.first(), "timesInB", row.second());
  }

  private static Map<String, Object> change(Differences.Change change, Differences differences) {
    return object(
        "a", values(change.first()),
        "b", values(change.second()),
        "columns", change.cells().stream().map(differences.headings()::get).toList());
  }

  private static List<@Nullable Object> values(List<@Nullable Object> row) {
    List<@Nullable Object> values = new ArrayList<>();
    row.forEach(value -> values.add(plain(value)));
    return values;
  }

  /** Names and values in turn; what is absent is left out. */
  static Map<String, Object> object(@Nullable Object... namesAndValues) {
    Map<String, Object> object = new LinkedHashMap<>();
    for (int i = 0; i < namesAndValues.length; i += 2) {
      Object value = namesAndValues[i + 1];
      if (value != null) {
        object.put(String.valueOf(namesAndValues[i]), value);
      }
    }
    return object;
  }

  static String write(Object value) {
    try {
      return MAPPER.writeValueAsString(value) + "\n";
    } catch (JsonProcessingException impossible) {
      throw new IllegalStateException("plain maps and lists can be written", impossible);
    }
  }
}
