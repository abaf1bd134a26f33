package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Quoted;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.Rows;
import io.lantrel.probe.Answers;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Value.LiteralKind;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * A column compared with a constant text that some rows miss only because of blanks at an end, or
 * of capitals: {@code state = 'paid'} where some are {@code 'Paid'}.
 */
public final class NearlyEqualConstant implements Check {

  private static final int SHOWN = 3;

  /** So many conditions of a block, and constants of a list, are asked about. */
  private static final int MOST = 32;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    if (subject.rows().isEmpty()) {
      return List.of();
    }
    List<Tested> tests = new ArrayList<>();
    for (Condition.Comparison each : subject.nodes(Condition.Comparison.class)) {
      boolean equal = each.operator() == ComparisonOperator.EQUAL;
      if (equal || each.operator() == ComparisonOperator.NOT_EQUAL) {
        tested(each, each.left(), List.of(each.right()), equal, subject).ifPresent(tests::add);
        tested(each, each.right(), List.of(each.left()), equal, subject).ifPresent(tests::add);
      }
    }
    for (Condition.InList each : subject.nodes(Condition.InList.class)) {
      boolean wanted = !each.negated();
      Optional<Tested> whole = tested(each, each.value(), each.list(), wanted, subject);
      if (whole.filter(Tested::code).isPresent()) {
        // Each for itself: that another one is there does not help it.
        each.list().stream()
            .flatMap(it -> tested(each, each.value(), List.of(it), wanted, subject).stream())
            .forEach(tests::add);
      } else {
        whole.ifPresent(tests::add);
      }
    }
    Map<UseColumn, List<String>> wanted = new HashMap<>();
    for (Tested each : tests) {
      wanted.computeIfAbsent(each.column(), key -> new ArrayList<>()).addAll(each.texts());
    }
    wanted.values().removeIf(NearlyEqualConstant::areToldApart);
    return tests.stream()
        .filter(each -> wanted.containsKey(each.column()))
        .limit(MOST)
        .map(each -> each.suspicion(subject.rows().orElseThrow()))
        .toList();
  }

  /** A query that asks for both writings knows of them. */
  private static boolean areToldApart(List<String> texts) {
    return texts.stream().distinct().count()
        > texts.stream().map(NearlyEqualConstant::plain).distinct().count();
  }

  private static Optional<Tested> tested(
      Condition condition,
      Expression value,
      List<Expression> constants,
      boolean wanted,
      Subject subject) {
    boolean texts =
        constants.size() <= MOST
            && constants.stream()
                .allMatch(
                    each ->
                        each instanceof Literal literal
                            && literal.kind() == LiteralKind.STRING
                            && literal.text().matches("(?s)'.*'")
                            && !subject.hasParameter(literal));
    return texts
        ? subject
            .ownColumn(value)
            .filter(each -> each.type().family() == TypeFamily.TEXT)
            .filter(each -> !each.use().isDependent())
            .map(
                each ->
                    new Tested(
                        condition,
                        subject.text(value),
                        each,
                        constants,
                        wanted,
                        CodeColumns.isOne(each, subject.catalog())))
        : Optional.empty();
  }

  private static String plain(String text) {
    return text.strip().toLowerCase(Locale.ROOT);
  }

  /**
   * A condition.
   *
   * @param value the text of what is compared
   * @param column that column
   * @param constants what it is compared with
   * @param wanted whether it is true for those that are equal
   * @param code whether each writing is a value of its own: then only told if none is written so
   */
  private record Tested(
      Condition condition,
      String value,
      UseColumn column,
      List<Expression> constants,
      boolean wanted,
      boolean code) {

    /** The constants without their quotation marks. */
    List<String> texts() {
      return constants.stream()
          .map(each -> ((Literal) each).text())
          .map(each -> each.substring(1, each.length() - 1))
          .toList();
    }

    Suspicion suspicion(JoinedRows rows) {
      Relation side = rows.side(column.use().item());
      Question<Long> near = Question.count(side, isNear(rows));
      Question<Long> equal = Question.count(side, isEqual(rows));
      return new Suspicion(
          Kind.NEARLY_EQUAL,
          condition.span(),
          List.of(condition.span()),
          List.of(near, equal),
          answers ->
              missed(answers, near, equal)
                  .filter(missed -> !code || answers.to(equal) == 0)
                  .map(missed -> conclude(missed, answers.to(equal) == 0, rows)));
    }

    private static Optional<Long> missed(
        Answers answers, Question<Long> near, Question<Long> equal) {
      return answers
          .ifAny(near)
          .flatMap(all -> answers.ifAny(equal).map(there -> all - there))
          .filter(missed -> missed > 0);
    }

    private Expression own(JoinedRows rows) {
      return rows.column(rows.side(column.use().item()), column);
    }

    private Expression isNear(JoinedRows rows) {
      return Sql.any(
          constants.stream()
              .map(each -> Sql.equal(Sql.plain(own(rows)), Sql.plain(each)))
              .toList());
    }

    private Expression isEqual(JoinedRows rows) {
      return Sql.any(constants.stream().map(each -> Sql.equal(own(rows), each)).toList());
    }

    private Conclusion conclude(long missed, boolean never, JoinedRows rows) {
      String which = Words.count(missed, column.use().rowWord());
      String alike = WrittenAlike.text(value);
      // Letters that engines make small in their own ways; what follows a backslash may be a name
      // of something else.
      boolean simple = texts().stream().allMatch(each -> each.matches("[\\p{ASCII}&&[^\\\\]]*"));
      List<String> texts =
          texts().stream().map(each -> "'" + plain(each) + "'").distinct().toList();
      String condition =
          texts.size() == 1 && !(this.condition instanceof Condition.InList)
              ? alike + (wanted ? " = " : " <> ") + texts.get(0)
              : alike + (wanted ? " IN (" : " NOT IN (") + String.join(", ", texts) + ")";
      return Conclusion.asking(
          Severity.WARNING,
          "Blanks or capitals alone make "
              + which
              + (wanted ? " miss" : " pass")
              + " this condition: "
              + column.written()
              + (code
                  ? " is never written so. Write what it holds."
                  : (never
                          ? " is never written so. Write what it holds, or compare "
                          : " is not written alike everywhere. Mend the data, or compare ")
                      + alike
                      + "."),
          others(rows),
          facts -> new Evidence(Map.of("rows written otherwise", missed), List.of(), facts),
          simple && !code
              ? List.of(List.of(new Edit(this.condition.span(), condition)))
              : List.of());
    }

    /** What stands there instead. */
    private Question<List<String>> others(JoinedRows rows) {
      Expression own = own(rows);
      return Question.values(
          rows.side(column.use().item()),
          Sql.first(
              rows.side(column.use().item())
                  .select(
                      false,
                      List.of(Sql.as(own, "c0")),
                      Sql.all(List.of(isNear(rows), Sql.not(isEqual(rows)))),
                      List.of(own),
                      null),
              List.of(own),
              SHOWN),
          1,
          Tested::sentence);
    }

    private static List<String> sentence(Rows answer) {
      return answer.rows().isEmpty()
          ? List.of()
          : List.of(
              "some hold "
                  + Words.list(
                      answer.rows().stream().map(row -> Quoted.text(row.get(0))).toList()));
    }
  }
}
