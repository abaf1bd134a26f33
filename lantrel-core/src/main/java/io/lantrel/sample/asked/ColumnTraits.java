package io.lantrel.sample.asked;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.sample.Trait;
import io.lantrel.sample.Trait.Outcome;
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
 * Rows of one table for what its columns can hold. Three statements: what the least and greatest
 * values are; for each trait the row with the least key that has it, in one pass for all; those
 * rows.
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
  List<Pick> picks(Asker asker) {
    List<Pick> picks = new ArrayList<>();
    List<Looked> looked = new ArrayList<>();
    Map<Column, Question<List<@Nullable String>>> ends = new LinkedHashMap<>();
    Map<Column, Question<List<String>>> values = new LinkedHashMap<>();
    for (ColumnSurvey each : survey.columns()) {
      Column column = each.column();
      if (each.empty() > 0) {
        looked.add(of(column, "NULL", Sql.isNull(value(column))));
      } else if (column.nullable()) {
        picks.add(absent(column, "NULL"));
      }
      if (each.empty() < survey.rows() && !isKey(column)) {
        looked.addAll(ofValues(column));
        if (isMeasured(column)) {
          ends.put(column, ends(column));
        }
        if (isListed(each)) {
          values.put(column, values(column));
        }
      }
    }
    List<Question<?>> first = new ArrayList<>(ends.values());
    first.addAll(values.values());
    Answers answers = asker.ask(first);
    ends.forEach((column, asked) -> looked.addAll(atEnds(column, answers.to(asked))));
    values.forEach((column, asked) -> looked.addAll(ofEach(column, answers.to(asked))));
    picks.addAll(found(looked, asker));
    return picks;
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
    boolean padded = column.type().word().startsWith("CHAR") && !column.type().numbers().isEmpty();
    if (column.type().family() == TypeFamily.TEXT && !padded) {
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

  private Question<List<@Nullable String>> ends(Column column) {
    Expression value = value(column);
    return Question.values(
        Query.of(
            Sql.select(
                List.of(
                    Sql.as(FunctionCall.of("MIN", value), "c0"),
                    Sql.as(FunctionCall.of("MAX", value), "c1")),
                rows.from(),
                null)),
        2,
        answer -> texts(answer.rows().get(0)));
  }

  private List<Looked> atEnds(Column column, List<@Nullable String> ends) {
    boolean time = TIMES.contains(column.type().family());
    List<Looked> looked = new ArrayList<>();
    String least = ends.get(0);
    String greatest = ends.get(1);
    if (least != null && greatest != null && !least.equals(greatest)) {
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
    List<Looked> looked = new ArrayList<>();
    for (int i = 0; i < values.size(); i++) {
      looked.add(
          of(
              column,
              "its value " + (i + 1) + " of " + values.size(),
              rows.equal(List.of(column.name()), List.of(values.get(i)))));
    }
    return looked;
  }

  // ---- finding it ----

  private List<Pick> found(List<Looked> looked, Asker asker) {
    Optional<Column> leading = rows.leading();
    if (looked.isEmpty() || leading.isEmpty()) {
      return List.of();
    }
    Expression lead = value(leading.get());
    List<SelectItem> items = new ArrayList<>();
    for (Looked each : looked) {
      Expression had = Sql.choose(each.condition(), lead, Sql.nothing());
      items.add(Sql.as(FunctionCall.of("MIN", had), "c" + items.size()));
    }
    Question<List<@Nullable String>> least =
        Question.values(
            Query.of(Sql.select(items, rows.from(), null)),
            items.size(),
            answer -> texts(answer.rows().get(0)));
    List<@Nullable String> keys = asker.ask(least);
    Map<Looked, Question<List<List<@Nullable String>>>> asked = new LinkedHashMap<>();
    List<Pick> picks = new ArrayList<>();
    for (int i = 0; i < looked.size(); i++) {
      String key = keys.get(i);
      if (key == null) {
        picks.add(new Pick(looked.get(i).trait().as(Outcome.ABSENT), List.of()));
      } else {
        Expression at = rows.equal(List.of(leading.get().name()), List.of(key));
        asked.put(looked.get(i), rows.where(Sql.all(List.of(at, looked.get(i).condition())), 1));
      }
    }
    Answers answers = asker.ask(asked.values());
    asked.forEach((each, question) -> picks.add(Pick.of(each.trait(), rows, answers.to(question))));
    return picks;
  }

  /** Two rows that share what a person would know them by; or two that are the same. */
  Optional<Pick> alike(Asker asker) {
    return rows.hasKey() ? sameName(asker) : twice(asker);
  }

  private Optional<Pick> sameName(Asker asker) {
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
    if (name.get().different().getAsLong() == survey.rows() - name.get().empty()) {
      return Optional.of(new Pick(trait.as(Outcome.ABSENT), List.of()));
    }
    Question<List<@Nullable String>> repeated =
        Question.values(
            Query.of(
                Sql.select(
                    List.of(Sql.as(FunctionCall.of("MIN", Sql.column(COUNTED, "c0")), "c0")),
                    Sql.derived(
                        Sql.grouped(
                            List.of(Sql.as(value(column), "c0")),
                            rows.from(),
                            List.of(value(column)),
                            Sql.greater(Sql.count(value(column)), Sql.number(1))),
                        COUNTED),
                    null)),
            1,
            answer -> texts(answer.rows().get(0)));
    String value = asker.ask(repeated).get(0);
    if (value == null) {
      return Optional.of(new Pick(trait.as(Outcome.ABSENT), List.of()));
    }
    Expression same = rows.equal(List.of(column.name()), List.of(value));
    return Optional.of(Pick.of(trait, rows, asker.ask(rows.where(same, PAIR))));
  }

  /** Only a table without a key can hold a row twice. */
  private Optional<Pick> twice(Asker asker) {
    List<Expression> all = survey.table().columns().stream().map(this::value).toList();
    if (survey.table().columns().stream().anyMatch(each -> !TableRows.isOrdered(each))) {
      return Optional.empty();
    }
    List<SelectItem> items = new ArrayList<>();
    all.forEach(each -> items.add(Sql.as(each, "c" + items.size())));
    Question<List<List<@Nullable String>>> question =
        Question.values(
            Sql.first(
                Sql.grouped(items, rows.from(), all, Sql.greater(Sql.count(), Sql.number(1))),
                rows.order(),
                1),
            items.size(),
            answer -> answer.rows().stream().map(ColumnTraits::texts).toList());
    Trait trait = Trait.of(survey.table().name(), Sort.LIKENESS, "", "the same row twice");
    List<Pick.Row> twice =
        asker.ask(question).stream()
            .map(row -> new Pick.Row(rows, rows.normal(row), PAIR))
            .toList();
    return Optional.of(new Pick(twice.isEmpty() ? trait.as(Outcome.ABSENT) : trait, twice));
  }

  // ---- words ----

  private Looked of(Column column, String words, Expression condition) {
    return new Looked(Trait.of(survey.table().name(), Sort.VALUE, column.name(), words), condition);
  }

  private Pick absent(Column column, String words) {
    return new Pick(
        Trait.of(survey.table().name(), Sort.VALUE, column.name(), words).as(Outcome.ABSENT),
        List.of());
  }

  private Expression value(Column column) {
    return rows.column(column.name());
  }

  private static List<@Nullable String> texts(List<@Nullable Object> row) {
    List<@Nullable String> texts = new ArrayList<>();
    row.forEach(each -> texts.add(each == null ? null : each.toString()));
    return texts;
  }
}
