package io.lantrel.check.kinds.joins;

import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Quoted;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.engine.Rows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Stream;

/** Which values a column has that a condition compares with a constant, and never meets. */
record ValuesThere(UseColumn column, Table table, String wanted) {

  /** So many are read, to look for those that come near. */
  private static final int READ = 500;

  private static final int SHOWN = 4;

  private static final String HERE = "t";

  /** What the first comparison of a column of a table with a constant is about. */
  private static Optional<ValuesThere> of(List<Expression> conditions, Subject subject) {
    return conditions.stream()
        .flatMap(Node::preorder)
        .map(node -> compared(node, subject))
        .flatMap(Optional::stream)
        .findFirst();
  }

  private static Optional<ValuesThere> compared(Node node, Subject subject) {
    List<Expression> values =
        node instanceof Condition.Like like
            ? List.of(like.value(), like.pattern())
            : Condition.compared(node);
    Optional<UseColumn> column =
        values.stream()
            .flatMap(each -> subject.block().meant(each).stream())
            .filter(subject.block()::isOwn)
            .findFirst();
    Optional<String> wanted =
        values.stream()
            .filter(Literal.class::isInstance)
            .map(each -> ((Literal) each).text())
            .findFirst();
    return column.flatMap(
        own ->
            own.use()
                .table()
                .flatMap(table -> wanted.map(text -> new ValuesThere(own, table, text))));
  }

  /** A warning that some condition is met by nothing, with the values that are there instead. */
  static Conclusion warning(
      String message,
      Map<String, Long> figures,
      String fact,
      List<Expression> conditions,
      Subject subject) {
    Function<List<String>, Evidence> evidence =
        more ->
            new Evidence(
                figures, List.of(), Stream.concat(Stream.of(fact), more.stream()).toList());
    return of(conditions, subject)
        .map(there -> there.question(subject.block().dialect()))
        .map(
            question -> Conclusion.asking(Severity.WARNING, message, question, evidence, List.of()))
        .orElseGet(
            () -> new Conclusion(Severity.WARNING, message, evidence.apply(List.of()), List.of()));
  }

  /** Asks for what there is, in a sentence. */
  private Question<List<String>> question(Dialect dialect) {
    FromItem from = Sql.table(table, HERE, dialect);
    Expression value = Sql.column(HERE, column.tableColumn(), dialect);
    if (column.type().family() != TypeFamily.TEXT) {
      List<Expression> ends = List.of(FunctionCall.of("MIN", value), FunctionCall.of("MAX", value));
      return Question.values(
          Query.of(
              Sql.select(
                  List.of(Sql.as(ends.get(0), "c0"), Sql.as(ends.get(1), "c1")), from, null)),
          2,
          this::range);
    }
    return Question.values(
        Sql.first(
            Sql.grouped(List.of(Sql.as(value, "c0")), from, List.of(value), Sql.isNotNull(value)),
            List.of(value),
            READ),
        1,
        this::texts);
  }

  private List<String> range(Rows answer) {
    Object least = answer.rows().get(0).get(0);
    Object greatest = answer.rows().get(0).get(1);
    return least == null
        ? List.of(column.words() + " is NULL in every row")
        : List.of(column.words() + " goes from " + least + " to " + greatest);
  }

  private List<String> texts(Rows answer) {
    List<String> values = new ArrayList<>();
    answer.rows().forEach(row -> values.add(Objects.toString(row.get(0))));
    if (values.isEmpty()) {
      return List.of(column.words() + " is NULL in every row");
    }
    if (values.size() <= SHOWN) {
      return List.of(
          values.size() == 1
              ? "the only value of " + column.words() + " is " + quoted(values)
              : "the values of " + column.words() + " are " + quoted(values));
    }
    String sought = plain(wanted);
    List<String> near =
        values.stream()
            .filter(each -> NearNames.distance(sought, plain(each)) * 3 <= sought.length())
            .sorted(Comparator.comparingInt(each -> NearNames.distance(sought, plain(each))))
            .limit(SHOWN)
            .toList();
    String many = values.size() == READ ? "many" : String.valueOf(values.size());
    return List.of(
        near.isEmpty()
            ? column.words() + " has " + many + " values, as " + quoted(values.subList(0, SHOWN))
            : near.size() == 1
                ? "the value of " + column.words() + " that comes nearest is " + quoted(near)
                : "the values of " + column.words() + " that come nearest are " + quoted(near));
  }

  /** As it is compared: capitals, blanks at the ends and the signs of patterns do not matter. */
  private static String plain(String text) {
    return Quoted.cut(text.replaceAll("[%']", "").strip().toLowerCase(Locale.ROOT));
  }

  private static String quoted(List<String> values) {
    return Words.list(values.stream().map(Quoted::text).toList());
  }
}
