package io.lantrel.check.kinds.totals;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.kinds.conditions.CodeColumns;
import io.lantrel.check.kinds.conditions.WrittenAlike;
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
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
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
import java.util.stream.IntStream;
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
    Set<UseColumn> grouped = new HashSet<>();
    block.groupedBy().forEach(each -> subject.ownColumn(each).ifPresent(grouped::add));
    List<Kept> all = new ArrayList<>();
    for (Expression each : block.groupedBy()) {
      subject
          .ownColumn(each)
          .filter(column -> isOfWords(column, subject) && splits(column, grouped, block))
          .map(
              column ->
                  Kept.groups(
                      column,
                      block.groupedBy().size() == 1,
                      place(each, block),
                      repair(column, subject)))
          .ifPresent(all::add);
    }
    for (FunctionCall call : subject.nodes(FunctionCall.class)) {
      if (call.key().equals("count") && call.distinct() && call.arguments().size() == 1) {
        subject
            .ownColumn(call.arguments().get(0))
            .filter(column -> isOfWords(column, subject))
            .map(column -> Kept.counted(column, call, subject))
            .ifPresent(all::add);
      }
    }
    if (all.isEmpty()) {
      return List.of();
    }
    // One pass for all of them.
    JoinedRows rows = subject.rows().orElseThrow();
    Values values = new Values(all.stream().map(Kept::column).distinct().toList(), rows);
    Question<List<Found>> question = values.question(subject.block());
    return all.stream().map(each -> each.suspicion(values, question)).toList();
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

  /** Whether a star shows it, where no name of it is written that could be changed. */
  private static boolean isBehindStar(UseColumn column, QueryBlock block) {
    return block.outputs().stream()
        .filter(each -> block.column(each.value()).filter(column::equals).isPresent())
        .anyMatch(
            each ->
                block.select().items().stream()
                    .noneMatch(
                        item ->
                            item instanceof SelectItem.Output output
                                && output.value().equals(each.value())));
  }

  /** The text written alike wherever the groups are shown, tested or put in order. */
  private static List<Edit> repair(UseColumn column, Subject subject) {
    QueryBlock block = subject.block();
    List<Edit> edits = new ArrayList<>();
    if (isBehindStar(column, block)) {
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
        .map(each -> new Edit(each.span(), WrittenAlike.text(subject.text(each)) + behind));
  }

  /**
   * A column whose values are kept apart.
   *
   * @param place where
   * @param harm what becomes of them
   * @param advice what to do
   */
  private record Kept(UseColumn column, Span place, String harm, String advice, List<Edit> repair) {

    static Kept groups(UseColumn column, boolean alone, Span place, List<Edit> repair) {
      return new Kept(
          column,
          place,
          alone
              ? "Blanks or capitals alone keep groups apart: "
              : "Blanks or capitals alone keep values apart by which is grouped: ",
          "group by " + WrittenAlike.text(column.written()),
          repair);
    }

    static Kept counted(UseColumn column, FunctionCall call, Subject subject) {
      Expression argument = call.arguments().get(0);
      String alike = WrittenAlike.text(subject.text(argument));
      return new Kept(
          column,
          call.span(),
          "What differs in blanks or capitals alone is counted as several: ",
          "count " + alike,
          List.of(new Edit(argument.span(), alike)));
    }

    Suspicion suspicion(Values values, Question<List<Found>> question) {
      return Suspicion.asking(
          Kind.NEARLY_EQUAL,
          place,
          List.of(place),
          Optional.of(question),
          answer ->
              answer
                  .map(found -> found.get(values.columns().indexOf(column)))
                  .filter(Found::differs)
                  .map(found -> conclude(found, values)));
    }

    private Conclusion conclude(Found found, Values values) {
      return Conclusion.asking(
          Severity.WARNING,
          harm + found.words(column) + ". Mend the data, or " + advice + ".",
          values.writings(column),
          facts ->
              new Evidence(
                  Map.of("values", found.values(), "values written alike", found.alike()),
                  List.of(),
                  facts),
          repair.isEmpty() ? List.of() : List.of(repair));
    }
  }

  /** The values of columns in the rows that are put together. */
  private record Values(List<UseColumn> columns, JoinedRows rows) {

    private static final String NAME = SampleData.RESERVED + "values";

    private Relation kept() {
      return rows.kept(columns.get(0).use()).relation();
    }

    /** Each value once, of all columns side by side. */
    private FromItem each(Relation relation) {
      List<Expression> values = columns.stream().map(each -> rows.column(relation, each)).toList();
      List<SelectItem> items = new ArrayList<>();
      values.forEach(each -> items.add(Sql.as(each, "v" + items.size())));
      return Sql.derived(relation.select(false, items, null, values, null), NAME);
    }

    private static Expression value(int number) {
      return Sql.column(NAME, "v" + number);
    }

    private Question<List<Found>> found(Relation relation) {
      List<SelectItem> figures = new ArrayList<>();
      for (int i = 0; i < columns.size(); i++) {
        figures.add(Sql.as(Sql.countDistinct(value(i)), "c" + figures.size()));
        figures.add(Sql.as(Sql.countDistinct(Sql.plain(value(i))), "c" + figures.size()));
      }
      return Question.numbers(
          relation,
          Query.of(Sql.select(figures, each(relation), null)),
          figures.size(),
          row ->
              IntStream.range(0, columns.size())
                  .mapToObj(i -> new Found(row.figure(2 * i), row.figure(2 * i + 1)))
                  .toList());
    }

    /** Where all are of tables that others refer to, the rows of these are looked at first. */
    Question<List<Found>> question(QueryBlock block) {
      Question<List<Found>> question = found(kept());
      List<TableUse> uses = columns.stream().map(UseColumn::use).distinct().toList();
      boolean referred =
          uses.stream()
              .allMatch(
                  use ->
                      use.table().isPresent()
                          && block.uses().stream().anyMatch(each -> refers(each, use, block)));
      return referred
          ? question.onlyIf(
              uses.stream().map(use -> of(use).test(use)).toList(),
              columns.stream().map(each -> new Found(0, 0)).toList())
          : question;
    }

    private Values of(TableUse use) {
      return new Values(columns.stream().filter(each -> each.use().equals(use)).toList(), rows);
    }

    private Question<Boolean> test(TableUse use) {
      return found(rows.side(use.item())).as(all -> all.stream().anyMatch(Found::differs));
    }

    private static boolean refers(TableUse one, TableUse other, QueryBlock block) {
      return !one.equals(other) && Totalled.decidedBy(one, block).contains(other);
    }

    /** Some that are written in several ways. */
    Question<List<String>> writings(UseColumn column) {
      Expression value = value(columns.indexOf(column));
      Expression alike = Sql.plain(value);
      return Question.values(
          kept(),
          Sql.first(
              Sql.grouped(
                  List.of(
                      Sql.as(FunctionCall.of("MIN", value), "c0"),
                      Sql.as(FunctionCall.of("MAX", value), "c1")),
                  each(kept()),
                  List.of(alike),
                  Sql.greater(Sql.countDistinct(value), Sql.number(1))),
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
   * @param values as they are written
   * @param alike if all were written alike
   */
  private record Found(long values, long alike) {

    boolean differs() {
      return alike < values;
    }

    String words(UseColumn column) {
      return Words.count(values, "value")
          + " of "
          + column.written()
          + " would be "
          + alike
          + " if they were written alike";
    }
  }
}
