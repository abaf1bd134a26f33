package io.lantrel.sample.asked;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.sample.Trait;
import io.lantrel.sample.Trait.Sort;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.survey.Survey.ColumnSurvey;
import io.lantrel.survey.Survey.TableSurvey;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Rows of one table for what its columns can hold. Three rounds: what the least and greatest values
 * are, in one pass, and which values a short list has; for each trait the row with the least key
 * that has it, in one pass for all; those rows.
 */
final class ColumnTraits {

  private static final Set<TypeFamily> NUMBERS =
      Set.of(TypeFamily.INTEGER, TypeFamily.DECIMAL, TypeFamily.FLOAT);
  private static final Set<TypeFamily> TIMES = Set.of(TypeFamily.DATE, TypeFamily.TIMESTAMP);
  private static final Set<TypeFamily> LISTED =
      Set.of(TypeFamily.TEXT, TypeFamily.INTEGER, TypeFamily.TRUTH);

  /** A column with so few values, each in several rows, is a list of what there can be. */
  private static final int FEW = 6;

  private static final int PAIR = 2;
  private static final String COUNTED = "counted";

  private final TableSurvey survey;
  private final TableRows rows;
  private final Set<String> referring;

  /**
   * @param referring the columns that refer to other rows, or that others refer to: their values
   *     mean nothing by themselves
   */
  ColumnTraits(TableSurvey survey, TableRows rows, Set<String> referring) {
    this.survey = survey;
    this.rows = rows;
    this.referring = referring;
  }

  /** A trait with the condition that its rows meet. */
  private record Looked(Trait trait, Expression condition) {}

  /** Rows to be taken; with no rows where the database has none. */
  Round begin() {
    List<Pick> absent = new ArrayList<>();
    List<Looked> looked = new ArrayList<>();
    List<Column> measured = new ArrayList<>();
    Map<Column, Question<List<String>>> values = new LinkedHashMap<>();
    for (ColumnSurvey each : survey.columns()) {
      Column column = each.column();
      if (each.empty() > 0) {
        looked.add(of(column, "NULL", Sql.isNull(value(column))));
      } else if (column.nullable()) {
        absent.add(Pick.absent(of(column, "NULL")));
      }
      if (each.empty() < survey.rows() && !isKey(column)) {
        looked.addAll(ofValues(column));
        if (isMeasured(column)) {
          measured.add(column);
        }
        if (isListed(each)) {
          values.put(column, values(column));
        }
      }
    }
    List<Question<?>> questions = new ArrayList<>(values.values());
    Optional<Question<List<@Nullable String>>> ends = ends(measured);
    ends.ifPresent(questions::add);
    return new Round(
        questions,
        answers -> {
          List<Looked> all = new ArrayList<>(looked);
          ends.ifPresent(asked -> all.addAll(atEnds(measured, answers.to(asked))));
          values.forEach((column, asked) -> all.addAll(ofEach(column, answers.to(asked))));
          return new Round.Found(absent, found(all));
        });
  }

  private boolean isKey(Column column) {
    return referring.contains(column.name())
        || (rows.hasKey() && rows.identity().contains(column.name()));
  }

  private static boolean isMeasured(Column column) {
    TypeFamily family = column.type().family();
    return NUMBERS.contains(family) || TIMES.contains(family);
  }

  private boolean isListed(ColumnSurvey column) {
    long filled = survey.rows() - column.empty();
    return LISTED.contains(column.column().type().family())
        && column.different().isPresent()
        && column.different().getAsLong() > 1
        && column.different().getAsLong() <= FEW
        && column.different().getAsLong() * 2 <= filled;
  }

  // ---- what can be looked for ----

  private List<Looked> ofValues(Column column) {
    Expression value = value(column);
    List<Looked> looked = new ArrayList<>();
    if (NUMBERS.contains(column.type().family())) {
      looked.add(of(column, "0", Sql.equal(value, Sql.number(0))));
      looked.add(of(column, "below 0", Sql.greater(Sql.number(0), value)));
    }
    if (column.type().family() == TypeFamily.TEXT && !column.type().isPadded()) {
      Expression length = FunctionCall.of("LENGTH", value);
      Expression trimmed = FunctionCall.of("LENGTH", FunctionCall.of("TRIM", value));
      looked.add(of(column, "empty", Sql.equal(length, Sql.number(0))));
      looked.add(
          of(
              column,
              "blanks alone",
              Sql.all(
                  List.of(Sql.greater(length, Sql.number(0)), Sql.equal(trimmed, Sql.number(0))))));
      looked.add(
          of(
              column,
              "blanks at an end",
              Sql.all(List.of(Sql.greater(length, trimmed), Sql.greater(trimmed, Sql.number(0))))));
    }
    return looked;
  }

  /** The least and the greatest value of each, in one pass; empty if there are none. */
  private Optional<Question<List<@Nullable String>>> ends(List<Column> columns) {
    List<SelectItem> items = new ArrayList<>();
    for (Column column : columns) {
      items.add(Sql.as(FunctionCall.of("MIN", value(column)), "c" + items.size()));
      items.add(Sql.as(FunctionCall.of("MAX", value(column)), "c" + items.size()));
    }
    return items.isEmpty() ? Optional.empty() : Optional.of(oneRow(items));
  }

  private Question<List<@Nullable String>> oneRow(List<SelectItem> items) {
    return Question.values(
        Query.of(Sql.select(items, rows.from(), null)),
        items.size(),
        answer -> TableRows.texts(answer.rows().get(0)));
  }

  private List<Looked> atEnds(List<Column> columns, List<@Nullable String> ends) {
    List<Looked> looked = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      Column column = columns.get(i);
      String least = ends.get(2 * i);
      String greatest = ends.get(2 * i + 1);
      if (least != null && greatest != null && !least.equals(greatest)) {
        boolean time = TIMES.contains(column.type().family());
        looked.add(
            of(
                column,
                time ? "the first" : "the least",
                compared(column, ComparisonOperator.LESS_OR_EQUAL, least)));
        looked.add(
            of(
                column,
                time ? "the last" : "the greatest",
                compared(column, ComparisonOperator.GREATER_OR_EQUAL, greatest)));
      }
    }
    return looked;
  }

  private Expression compared(Column column, ComparisonOperator operator, String value) {
    return new Comparison(
        Span.NOWHERE, operator, value(column), rows.literal(column.name(), value));
  }

  private Question<List<String>> values(Column column) {
    return Question.values(
        Sql.first(
            Sql.grouped(
                List.of(Sql.as(value(column), "c0")),
                rows.from(),
                List.of(value(column)),
                Sql.isNotNull(value(column))),
            List.of(),
            FEW),
        1,
        answer -> answer.rows().stream().map(row -> String.valueOf(row.get(0))).sorted().toList());
  }

  private List<Looked> ofEach(Column column, List<String> values) {
    return values.stream()
        .map(
            each ->
                of(
                    column,
                    "each of " + values.size() + " values",
                    rows.equal(List.of(column.name()), List.of(each))))
        .toList();
  }

  // ---- finding it ----

  /** For each trait the row with the least key that has it: in one pass; then those rows. */
  private @Nullable Round found(List<Looked> looked) {
    Optional<Column> leading = rows.leading();
    if (looked.isEmpty() || leading.isEmpty()) {
      return null;
    }
    List<SelectItem> items = new ArrayList<>();
    for (Looked each : looked) {
      Expression had = Sql.choose(each.condition(), value(leading.get()), Sql.nothing());
      items.add(Sql.as(TableRows.least(had, leading.get().type()), "c" + items.size()));
    }
    Question<List<@Nullable String>> least = oneRow(items);
    return new Round(
        List.of(least), answers -> atKeys(looked, leading.get().name(), answers.to(least)));
  }

  private Round.Found atKeys(List<Looked> looked, String leading, List<@Nullable String> keys) {
    Map<Looked, Question<List<List<@Nullable String>>>> asked = new LinkedHashMap<>();
    List<Pick> absent = new ArrayList<>();
    for (int i = 0; i < looked.size(); i++) {
      Looked each = looked.get(i);
      String key = keys.get(i);
      if (key == null) {
        absent.add(Pick.absent(each.trait()));
      } else {
        Expression at = rows.equal(List.of(leading), List.of(key));
        asked.put(each, rows.where(Sql.all(List.of(at, each.condition())), 1));
      }
    }
    Round rest =
        new Round(
            List.copyOf(asked.values()),
            answers ->
                Round.Found.all(
                    asked.entrySet().stream()
                        .map(
                            each ->
                                Pick.of(each.getKey().trait(), rows, answers.to(each.getValue())))
                        .toList()));
    return new Round.Found(absent, asked.isEmpty() ? null : rest);
  }

  /** Two rows that share what a person would know them by; or two that are the same. */
  Optional<Round> alike() {
    return rows.hasKey() ? sameName() : twice();
  }

  private Optional<Round> sameName() {
    Optional<ColumnSurvey> name =
        survey.columns().stream()
            .filter(each -> each.column().type().family() == TypeFamily.TEXT)
            .filter(each -> !isKey(each.column()))
            .findFirst();
    if (name.isEmpty() || name.get().different().isEmpty()) {
      return Optional.empty();
    }
    Column column = name.get().column();
    Trait trait =
        Trait.of(survey.table().name(), Sort.LIKENESS, column.name(), "the same in two rows");
    Round.Found none = Round.Found.all(List.of(Pick.absent(trait)));
    if (name.get().different().getAsLong() == survey.rows() - name.get().empty()) {
      return Optional.of(new Round(List.of(), answers -> none));
    }
    Question<List<@Nullable String>> repeated =
        Question.values(
            Query.of(
                Sql.select(
                    List.of(
                        Sql.as(TableRows.least(Sql.column(COUNTED, "c0"), column.type()), "c0")),
                    Sql.derived(
                        Sql.grouped(
                            List.of(Sql.as(value(column), "c0")),
                            rows.from(),
                            List.of(value(column)),
                            Sql.greater(Sql.count(value(column)), Sql.number(1))),
                        COUNTED),
                    null)),
            1,
            answer -> TableRows.texts(answer.rows().get(0)));
    return Optional.of(
        new Round(
            List.of(repeated),
            answers -> {
              String value = answers.to(repeated).get(0);
              return value == null
                  ? none
                  : new Round.Found(
                      List.of(),
                      Round.of(
                          rows.where(rows.equal(List.of(column.name()), List.of(value)), PAIR),
                          same -> List.of(Pick.of(trait, rows, same))));
            }));
  }

  /** Only a table without a key can hold a row twice. */
  private Optional<Round> twice() {
    if (survey.table().columns().stream().anyMatch(each -> !TableRows.isOrdered(each))) {
      return Optional.empty();
    }
    List<Expression> all = survey.table().columns().stream().map(this::value).toList();
    List<SelectItem> items = new ArrayList<>();
    all.forEach(each -> items.add(Sql.as(each, "c" + items.size())));
    Question<List<List<@Nullable String>>> question =
        Question.values(
            Sql.first(
                Sql.grouped(items, rows.from(), all, Sql.greater(Sql.count(), Sql.number(1))),
                rows.order(),
                1),
            items.size(),
            answer -> answer.rows().stream().map(rows::normal).toList());
    Trait trait = Trait.of(survey.table().name(), Sort.LIKENESS, "", "the same row twice");
    return Optional.of(
        Round.of(
            question,
            found ->
                List.of(
                    found.isEmpty()
                        ? Pick.absent(trait)
                        : new Pick(trait, List.of(new Pick.Row(rows, found.get(0), PAIR))))));
  }

  // ---- words ----

  private Looked of(Column column, String words, Expression condition) {
    return new Looked(of(column, words), condition);
  }

  private Trait of(Column column, String words) {
    return Trait.of(survey.table().name(), Sort.VALUE, column.name(), words);
  }

  private Expression value(Column column) {
    return rows.column(column.name());
  }
}
