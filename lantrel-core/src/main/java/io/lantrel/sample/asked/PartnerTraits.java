package io.lantrel.sample.asked;

import io.lantrel.catalog.Reference;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.sample.Trait;
import io.lantrel.sample.Trait.Outcome;
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
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Rows of the two tables of a reference for how many partners they have: the referring rows counted
 * once for each value by which they refer, in one pass, and one more for rows that have none.
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
  List<Pick> picks(Asker asker) {
    List<Pick> picks = new ArrayList<>();
    picks.add(toNothing(asker));
    if (reference.isSelfReference()) {
      picks.add(toItself(asker));
    }
    picks.add(without(asker));
    picks.addAll(withSome(asker));
    return picks;
  }

  private Pick toNothing(Asker asker) {
    Trait trait = reference("leading nowhere");
    if (survey.toNothing() == 0) {
      return absent(trait);
    }
    List<Expression> conditions = new ArrayList<>();
    reference.fromColumns().forEach(each -> conditions.add(Sql.isNotNull(from.column(each))));
    conditions.add(
        Sql.not(
            Sql.exists(
                Sql.table(reference.to(), THERE, to.dialect()), along(TableRows.HERE, THERE))));
    return pick(trait, from, asker.ask(from.where(Sql.all(conditions), 1)));
  }

  private Pick toItself(Asker asker) {
    Trait trait = reference("leading to itself");
    return pick(trait, from, asker.ask(from.where(along(TableRows.HERE, TableRows.HERE), 1)));
  }

  private Pick without(Asker asker) {
    Trait trait = partners("none");
    Expression none =
        Sql.not(
            Sql.exists(
                Sql.table(reference.from(), THERE, to.dialect()), along(THERE, TableRows.HERE)));
    return pick(trait, to, asker.ask(to.where(none, 1)));
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

  /** Rows with one, two, several partners: with these. */
  private List<Pick> withSome(Asker asker) {
    List<Pick> picks = new ArrayList<>();
    List<Question<List<List<@Nullable String>>>> questions =
        List.of(
            values(ComparisonOperator.EQUAL, 1),
            values(ComparisonOperator.EQUAL, 2),
            values(ComparisonOperator.GREATER_OR_EQUAL, SEVERAL));
    List<String> words = List.of("one", "two", "several");
    Answers answers = asker.ask(questions);
    for (int i = 0; i < questions.size(); i++) {
      Trait trait = partners(words.get(i));
      List<List<@Nullable String>> found = answers.to(questions.get(i));
      if (found.isEmpty()) {
        picks.add(absent(trait));
      } else {
        List<String> values = new ArrayList<>();
        found.get(0).forEach(each -> values.add(String.valueOf(each)));
        List<List<@Nullable String>> partners =
            asker.ask(from.where(from.equal(reference.fromColumns(), values), i + 1));
        picks.add(pick(trait, from, partners));
      }
    }
    return picks;
  }

  /** The values by which so many rows refer, the least of those that lead to a row. */
  private Question<List<List<@Nullable String>>> values(ComparisonOperator operator, long number) {
    List<String> columns = reference.fromColumns();
    List<SelectItem> items = new ArrayList<>();
    List<SelectItem> shown = new ArrayList<>();
    List<Expression> groups = new ArrayList<>();
    List<Expression> order = new ArrayList<>();
    List<Expression> equal = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      groups.add(from.column(columns.get(i)));
      items.add(Sql.as(from.column(columns.get(i)), "v" + i));
      Expression value = Sql.column(COUNTED, "v" + i);
      shown.add(Sql.as(value, "c" + i));
      order.add(value);
      equal.add(Sql.equal(Sql.column(THERE, reference.toColumns().get(i), to.dialect()), value));
    }
    Expression often = new Comparison(Span.NOWHERE, operator, Sql.count(), Sql.number(number));
    FromItem counted =
        Sql.derived(Query.of(Sql.grouped(items, from.from(), groups, often)), COUNTED);
    FromItem there = Sql.table(reference.to(), THERE, to.dialect());
    return Question.values(
        Sql.first(
            Sql.select(
                shown, FromItem.Join.of(counted, JoinKind.INNER, there, Sql.all(equal)), null),
            order,
            1),
        columns.size(),
        answer -> {
          List<List<@Nullable String>> rows = new ArrayList<>();
          answer.rows().forEach(row -> rows.add(texts(row)));
          return rows;
        });
  }

  private static List<@Nullable String> texts(List<@Nullable Object> row) {
    List<@Nullable String> texts = new ArrayList<>();
    row.forEach(each -> texts.add(each == null ? null : each.toString()));
    return texts;
  }

  private Trait partners(String words) {
    return Trait.of(reference.to().name(), Sort.PARTNERS, reference.from().name() + by, words);
  }

  private Trait reference(String words) {
    return Trait.of(
        reference.from().name(), Sort.REFERENCE, String.join(", ", reference.fromColumns()), words);
  }

  private static Pick absent(Trait trait) {
    return new Pick(trait.as(Outcome.ABSENT), List.of());
  }

  private static Pick pick(Trait trait, TableRows of, List<List<@Nullable String>> rows) {
    return rows.isEmpty() ? absent(trait) : Pick.of(trait, of, rows);
  }
}
