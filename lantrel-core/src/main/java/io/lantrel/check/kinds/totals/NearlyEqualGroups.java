package io.lantrel.check.kinds.totals;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.kinds.conditions.CodeColumns;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Quoted;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.Rows;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Stream;

/**
 * Groups by a text, or a count of its values, where some values differ only in blanks at an end or
 * in capitals: what is one thing is counted as two.
 */
public final class NearlyEqualGroups implements Check {

  private static final int SHOWN = 3;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    if (subject.rows().isEmpty()) {
      return List.of();
    }
    QueryBlock block = subject.block();
    JoinedRows rows = subject.rows().orElseThrow();
    List<Suspicion> suspicions = new ArrayList<>();
    Set<UseColumn> grouped = new HashSet<>();
    block.grouping().forEach(each -> subject.ownColumn(each).ifPresent(grouped::add));
    for (Expression each : block.grouping()) {
      subject
          .ownColumn(each)
          .filter(column -> isOfWords(column, subject) && splits(column, grouped, block))
          .map(column -> new Kept(column, rows))
          .map(kept -> kept.groups(place(each, block), repair(kept.column(), subject)))
          .ifPresent(suspicions::add);
    }
    for (FunctionCall call : subject.nodes(FunctionCall.class)) {
      if (call.key().equals("count") && call.distinct() && call.arguments().size() == 1) {
        Expression counted = call.arguments().get(0);
        subject
            .ownColumn(counted)
            .filter(column -> isOfWords(column, subject))
            .map(column -> new Kept(column, rows))
            .map(kept -> kept.counted(call.span(), plain(subject.text(counted)), counted.span()))
            .ifPresent(suspicions::add);
      }
    }
    return suspicions;
  }

  private static boolean isOfWords(UseColumn column, Subject subject) {
    return column.type().family() == TypeFamily.TEXT
        && !CodeColumns.isOne(column, subject.catalog());
  }

  /** Whether nothing else that is grouped by tells its rows apart anyway. */
  private static boolean splits(UseColumn column, Set<UseColumn> grouped, QueryBlock block) {
    Set<UseColumn> others = new HashSet<>(grouped);
    others.remove(column);
    return !block.determines(others, column);
  }

  /** GROUP BY 1 stands for what is written in SELECT. */
  private static Span place(Expression grouped, QueryBlock block) {
    return block.select().groupBy().stream()
        .filter(each -> block.column(each).equals(block.column(grouped)))
        .map(Node::span)
        .filter(span -> !span.isNowhere())
        .findFirst()
        .orElse(grouped.span());
  }

  private static String plain(String text) {
    return "LOWER(TRIM(" + text + "))";
  }

  /** The text written alike wherever the groups are shown, tested or put in order. */
  private static List<Edit> repair(UseColumn column, Subject subject) {
    QueryBlock block = subject.block();
    List<Edit> edits = new ArrayList<>();
    boolean hidden = false;
    for (OutputColumn each : block.outputs()) {
      boolean written =
          block.select().items().stream()
              .anyMatch(
                  item ->
                      item instanceof SelectItem.Output output
                          && output.value().equals(each.value()));
      hidden |= !written && block.column(each.value()).filter(column::equals).isPresent();
    }
    if (hidden) {
      return List.of();
    }
    QueryBody.Select select = block.select();
    for (SelectItem item : select.items()) {
      if (item instanceof SelectItem.Output output) {
        boolean bare = block.column(output.value()).filter(column::equals).isPresent();
        String heading =
            bare && output.label() == null
                ? " " + subject.edits().keyword("AS") + " " + column.name()
                : "";
        within(output.value(), column, subject, heading).forEach(edits::add);
      }
    }
    Stream.concat(select.groupBy().stream(), Stream.ofNullable(select.having()))
        .flatMap(each -> within(each, column, subject, ""))
        .forEach(edits::add);
    if (block.query().body().equals(select)) {
      block.query().orderBy().stream()
          .flatMap(each -> within(each.value(), column, subject, ""))
          .forEach(edits::add);
    }
    return edits;
  }

  private static Stream<Edit> within(Node node, UseColumn column, Subject subject, String behind) {
    return node.preorder()
        .filter(ColumnName.class::isInstance)
        .map(ColumnName.class::cast)
        .filter(each -> subject.ownColumn(each).filter(column::equals).isPresent())
        .map(each -> new Edit(each.span(), plain(subject.text(each)) + behind));
  }

  /** The values of a column in the rows that are grouped. */
  private record Kept(UseColumn column, JoinedRows rows) {

    Suspicion groups(Span place, List<Edit> repair) {
      return suspicion(
          place,
          found ->
              "Blanks or capitals alone keep groups apart: "
                  + found.words()
                  + ". Mend the data, or group by "
                  + plain(column.written())
                  + ".",
          repair);
    }

    Suspicion counted(Span place, String alike, Span argument) {
      return suspicion(
          place,
          found ->
              "What differs in blanks or capitals alone is counted as several: "
                  + found.words()
                  + ". Mend the data, or count "
                  + alike
                  + ".",
          List.of(new Edit(argument, alike)));
    }

    private Suspicion suspicion(Span place, Function<Found, String> message, List<Edit> repair) {
      Question<Found> question = question();
      return Suspicion.asking(
          Kind.NEARLY_EQUAL,
          place,
          List.of(place),
          Optional.of(question),
          answer ->
              answer
                  .filter(found -> found.alike() < found.values())
                  .map(found -> conclude(message.apply(found), found, repair)));
    }

    private Conclusion conclude(String message, Found found, List<Edit> repair) {
      return Conclusion.asking(
          Severity.WARNING,
          message,
          writings(),
          facts ->
              new Evidence(
                  Map.of("values", found.values(), "values written alike", found.alike()),
                  List.of(),
                  facts),
          repair.isEmpty() ? List.of() : List.of(repair));
    }

    private Relation kept() {
      return rows.kept(column.use()).relation();
    }

    private FromItem each() {
      Relation kept = kept();
      Expression value = rows.column(kept, column);
      return Sql.derived(
          kept.select(false, List.of(Sql.as(value, "v")), null, List.of(value), null),
          SampleData.RESERVED + "values");
    }

    private static Expression value() {
      return Sql.column(SampleData.RESERVED + "values", "v");
    }

    private Question<Found> question() {
      List<SelectItem> figures =
          List.of(
              Sql.as(Sql.count(value()), "c0"),
              Sql.as(Sql.countDistinct(Sql.plain(value())), "c1"));
      return Question.numbers(
          kept(),
          Query.of(Sql.select(figures, each(), null)),
          2,
          row -> new Found(column, row.figure(0), row.figure(1)));
    }

    /** Some that are written in several ways. */
    private Question<List<String>> writings() {
      Expression value = value();
      Expression alike = Sql.plain(value);
      return Question.values(
          kept(),
          Sql.first(
              Sql.grouped(
                  List.of(
                      Sql.as(FunctionCall.of("MIN", value), "c0"),
                      Sql.as(FunctionCall.of("MAX", value), "c1")),
                  each(),
                  List.of(alike),
                  Sql.greater(Sql.count(value), Sql.number(1))),
              List.of(alike),
              SHOWN),
          2,
          NearlyEqualGroups::sentences);
    }
  }

  private static List<String> sentences(Rows answer) {
    return answer.rows().stream()
        .map(row -> Quoted.text(row.get(0)) + " and " + Quoted.text(row.get(1)) + " are there")
        .toList();
  }

  /**
   * How many values there are.
   *
   * @param column of which
   * @param values as they are written
   * @param alike if all were written alike
   */
  private record Found(UseColumn column, long values, long alike) {

    String words() {
      return Words.count(values, "value")
          + " of "
          + column.written()
          + " would be "
          + alike
          + " if they were written alike";
    }
  }
}
