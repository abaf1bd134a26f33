package io.lantrel.sample.asked;

import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.Reference;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.sample.Trait;
import io.lantrel.sample.Trait.Sort;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.survey.Survey.ReferenceSurvey;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Rows of the two tables of a reference for how many partners they have: the referring rows are
 * counted for each value by which they refer, in one pass, and one more looks for rows that have
 * none. A reference of several columns needs a further round, for the values beside the first.
 */
final class PartnerTraits {

  private static final String THERE = "there";
  private static final String COUNTED = "counted";

  /** So many of several partners are taken. */
  private static final int SEVERAL = 3;

  private final ReferenceSurvey survey;
  private final Reference reference;
  private final TableRows from;
  private final TableRows to;
  private final String by;

  /**
   * @param from the table that refers
   * @param to the table that is referred to
   * @param single whether there is no other reference between the two
   */
  PartnerTraits(ReferenceSurvey survey, TableRows from, TableRows to, boolean single) {
    this.survey = survey;
    this.reference = survey.reference();
    this.from = from;
    this.to = to;
    this.by =
        single && !reference.isSelfReference()
            ? ""
            : " by " + String.join(", ", reference.fromColumns());
  }

  /** Rows to be taken; with no rows where the database has none. */
  Round begin() {
    Map<Trait, Question<List<List<@Nullable String>>>> referring = new LinkedHashMap<>();
    List<Pick> known = new ArrayList<>();
    Trait nowhere = reference("leading nowhere");
    if (survey.toNothing() == 0) {
      known.add(Pick.absent(nowhere));
    } else {
      referring.put(nowhere, from.where(leadsNowhere(), 1));
    }
    if (reference.isSelfReference()) {
      Expression itself = along(TableRows.HERE, TableRows.HERE);
      referring.put(reference("leading to itself"), from.where(itself, 1));
    }
    Question<List<List<@Nullable String>>> none = to.where(hasNone(), 1);
    Question<List<@Nullable String>> least = leastOfSome();
    List<Question<?>> questions = new ArrayList<>(referring.values());
    questions.addAll(List.of(none, least));
    return new Round(
        questions,
        answers -> {
          List<Pick> picks = new ArrayList<>(known);
          referring.forEach(
              (trait, question) -> picks.add(Pick.orAbsent(trait, from, answers.to(question))));
          picks.add(Pick.orAbsent(partners("none"), to, answers.to(none)));
          return new Round.Found(picks, values(answers.to(least)));
        });
  }

  private Expression leadsNowhere() {
    List<Expression> conditions = new ArrayList<>();
    reference.fromColumns().forEach(each -> conditions.add(Sql.isNotNull(from.column(each))));
    conditions.add(
        Sql.not(
            Sql.exists(
                Sql.table(reference.to(), THERE, to.dialect()), along(TableRows.HERE, THERE))));
    return Sql.all(conditions);
  }

  private Expression hasNone() {
    return Sql.not(
        Sql.exists(Sql.table(reference.from(), THERE, to.dialect()), along(THERE, TableRows.HERE)));
  }

  /** The equalities of the reference. */
  private Expression along(String referring, String referredTo) {
    List<Expression> equal = new ArrayList<>();
    for (int i = 0; i < reference.fromColumns().size(); i++) {
      equal.add(
          Sql.equal(
              Sql.column(referring, reference.fromColumns().get(i), from.dialect()),
              Sql.column(referredTo, reference.toColumns().get(i), to.dialect())));
    }
    return Sql.all(equal);
  }

  // ---- one, two, several ----

  /** So many rows referring, as one of one, two, several. */
  private Expression often(int number) {
    Expression count = Sql.column(COUNTED, "n");
    return number < SEVERAL
        ? Sql.equal(count, Sql.number(number))
        : new Comparison(
            Span.NOWHERE, ComparisonOperator.GREATER_OR_EQUAL, count, Sql.number(number));
  }

  /** The referring rows counted for each value by which they refer, beside what they refer to. */
  private FromItem counted() {
    List<SelectItem> items = new ArrayList<>();
    List<Expression> groups = new ArrayList<>();
    List<Expression> equal = new ArrayList<>();
    for (int i = 0; i < reference.fromColumns().size(); i++) {
      Expression value = from.column(reference.fromColumns().get(i));
      groups.add(value);
      items.add(Sql.as(value, "v" + i));
      Expression there = Sql.column(THERE, reference.toColumns().get(i), to.dialect());
      equal.add(Sql.equal(there, Sql.column(COUNTED, "v" + i)));
    }
    items.add(Sql.as(Sql.count(), "n"));
    return FromItem.Join.of(
        Sql.derived(Sql.grouped(items, from.from(), groups, null), COUNTED),
        JoinKind.INNER,
        Sql.table(reference.to(), THERE, to.dialect()),
        Sql.all(equal));
  }

  /** The least first value by which one, two, several rows refer: one pass for all three. */
  private Question<List<@Nullable String>> leastOfSome() {
    List<SelectItem> items = new ArrayList<>();
    ColumnType referring =
        reference.from().column(reference.fromColumns().get(0)).orElseThrow().type();
    for (int number = 1; number <= SEVERAL; number++) {
      Expression value = Sql.choose(often(number), Sql.column(COUNTED, "v0"), Sql.nothing());
      items.add(Sql.as(TableRows.least(value, referring), "c" + items.size()));
    }
    return Question.values(
        Query.of(Sql.select(items, counted(), null)),
        SEVERAL,
        answer -> TableRows.texts(answer.rows().get(0)));
  }

  /** The other columns of these values, where there are any; then the rows that have them. */
  private @Nullable Round values(List<@Nullable String> least) {
    if (reference.fromColumns().size() == 1) {
      List<@Nullable List<String>> values = new ArrayList<>();
      least.forEach(each -> values.add(each == null ? null : List.of(each)));
      return referring(values);
    }
    List<@Nullable Question<List<List<@Nullable String>>>> questions = new ArrayList<>();
    for (int number = 1; number <= SEVERAL; number++) {
      String first = least.get(number - 1);
      questions.add(first == null ? null : wholeValue(number, first));
    }
    return new Round(
        questions.stream().flatMap(Stream::ofNullable).toList(),
        answers -> {
          List<@Nullable List<String>> values = new ArrayList<>();
          for (Question<List<List<@Nullable String>>> each : questions) {
            List<List<@Nullable String>> rows = each == null ? List.of() : answers.to(each);
            values.add(rows.isEmpty() ? null : rows.get(0).stream().map(String::valueOf).toList());
          }
          return new Round.Found(List.of(), referring(values));
        });
  }

  private Question<List<List<@Nullable String>>> wholeValue(int number, String first) {
    List<SelectItem> shown = new ArrayList<>();
    List<Expression> order = new ArrayList<>();
    for (int i = 0; i < reference.fromColumns().size(); i++) {
      order.add(Sql.column(COUNTED, "v" + i));
      shown.add(Sql.as(Sql.column(COUNTED, "v" + i), "c" + i));
    }
    Expression literal = from.literal(reference.fromColumns().get(0), first);
    Expression where =
        Sql.all(List.of(often(number), Sql.equal(Sql.column(COUNTED, "v0"), literal)));
    return Question.values(
        Sql.first(Sql.select(shown, counted(), where), order, 1),
        shown.size(),
        answer -> answer.rows().stream().map(TableRows::texts).toList());
  }

  /**
   * The rows that refer.
   *
   * @param values by which values one does, two do, several do; null where there are none
   */
  private Round referring(List<@Nullable List<String>> values) {
    List<String> words = List.of("one", "two", "several");
    List<Pick> absent = new ArrayList<>();
    Map<Trait, Question<List<List<@Nullable String>>>> asked = new LinkedHashMap<>();
    for (int i = 0; i < SEVERAL; i++) {
      List<String> value = values.get(i);
      Trait trait = partners(words.get(i));
      if (value == null) {
        absent.add(Pick.absent(trait));
      } else {
        asked.put(trait, from.where(from.equal(reference.fromColumns(), value), i + 1));
      }
    }
    return new Round(
        List.copyOf(asked.values()),
        answers -> {
          List<Pick> picks = new ArrayList<>(absent);
          asked.forEach(
              (trait, question) -> picks.add(Pick.orAbsent(trait, from, answers.to(question))));
          return Round.Found.all(picks);
        });
  }

  private Trait partners(String words) {
    return Trait.of(reference.to().name(), Sort.PARTNERS, reference.from().name() + by, words);
  }

  private Trait reference(String words) {
    return Trait.of(
        reference.from().name(), Sort.REFERENCE, String.join(", ", reference.fromColumns()), words);
  }
}
