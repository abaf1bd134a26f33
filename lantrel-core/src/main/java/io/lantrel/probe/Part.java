package io.lantrel.probe;

import static java.util.Objects.requireNonNull;

import io.lantrel.engine.Rows;
import io.lantrel.engine.SampleData;
import io.lantrel.engine.ValueText;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** One SELECT of a statement, and the questions that it answers. */
sealed interface Part {

  List<Question<?>> questions();

  /** What WITH must define. */
  List<CommonTable> with();

  boolean recursive();

  /** Whether it gives whole numbers, or else texts. */
  boolean numbers();

  /** How many columns it gives, without the first. */
  int width();

  /** How many joins it has. */
  int joins();

  /** The SELECT, with a number in front and filled up to so many columns. */
  QueryBody body(int tag, int columns);

  void read(List<List<@Nullable Object>> rows, Answers answers);

  static int joins(Node node) {
    return (int) node.preorder().filter(FromItem.Join.class::isInstance).count();
  }

  private static Rows rows(List<List<@Nullable Object>> rows, int width) {
    List<String> headings = IntStream.range(0, width).mapToObj(i -> "c" + i).toList();
    return new Rows(headings, rows, false);
  }

  /** Figures over one relation; the same figure of several questions is worked out once. */
  record Figures(Relation relation, List<Question<?>> questions, Map<String, Expression> values)
      implements Part {

    static Figures of(Relation relation, List<Question<?>> questions) {
      Map<String, Expression> values = new LinkedHashMap<>();
      for (Question<?> question : questions) {
        wanted(question).forEach(each -> values.putIfAbsent(written(each), each));
      }
      return new Figures(relation, questions, values);
    }

    private static String written(Expression figure) {
      return SqlPrinter.text(figure);
    }

    private static List<Expression> wanted(Question<?> question) {
      return ((Question.Figures) question.asked()).values();
    }

    @Override
    public List<CommonTable> with() {
      return relation.with();
    }

    @Override
    public boolean recursive() {
      return relation.isRecursive();
    }

    @Override
    public boolean numbers() {
      return true;
    }

    @Override
    public int width() {
      return values.size();
    }

    @Override
    public int joins() {
      return Part.joins(relation.select(List.of(), null));
    }

    @Override
    public QueryBody body(int tag, int columns) {
      List<SelectItem> items = new ArrayList<>(List.of(Sql.as(Sql.number(tag), "tag")));
      values.values().forEach(each -> items.add(Sql.as(each, "c" + (items.size() - 1))));
      while (items.size() <= columns) {
        items.add(Sql.as(Sql.number(0), "c" + (items.size() - 1)));
      }
      return relation.select(items, null);
    }

    @Override
    public void read(List<List<@Nullable Object>> rows, Answers answers) {
      Map<String, Integer> places = new HashMap<>();
      values.keySet().forEach(each -> places.put(each, places.size()));
      for (Question<?> question : questions) {
        List<@Nullable Object> own = new ArrayList<>();
        wanted(question)
            .forEach(each -> own.add(rows.get(0).get(requireNonNull(places.get(written(each))))));
        answers.put(question, Part.rows(List.of(own), own.size()));
      }
    }
  }

  /**
   * The rows of one query.
   *
   * @param cast whether the database makes texts of the values, so that there can be others below
   */
  record Listed(Question<?> question, Question.Listed asked, boolean cast) implements Part {

    @Override
    public List<Question<?>> questions() {
      return List.of(question);
    }

    @Override
    public List<CommonTable> with() {
      return asked.with();
    }

    @Override
    public boolean recursive() {
      return asked.recursive();
    }

    @Override
    public boolean numbers() {
      return asked.numbers();
    }

    @Override
    public int width() {
      return asked.width();
    }

    @Override
    public int joins() {
      return Part.joins(asked.query());
    }

    @Override
    public QueryBody body(int tag, int columns) {
      String alias = SampleData.RESERVED + "e" + tag;
      List<SelectItem> items = new ArrayList<>(List.of(Sql.as(Sql.number(tag), "tag")));
      for (int i = 0; i < columns; i++) {
        items.add(Sql.as(value(alias, i), "c" + i));
      }
      return Sql.select(items, Sql.derived(asked.query(), alias), null);
    }

    private Expression value(String alias, int column) {
      boolean own = column < asked.width();
      if (asked.numbers()) {
        return own ? Sql.column(alias, "c" + column) : Sql.number(0);
      }
      if (!cast && own) {
        return Sql.column(alias, "c" + column);
      }
      return Sql.text(own ? Sql.column(alias, "c" + column) : Sql.nothing());
    }

    @Override
    public void read(List<List<@Nullable Object>> rows, Answers answers) {
      List<List<@Nullable Object>> own =
          rows.stream().map(row -> row.subList(0, asked.width())).map(this::told).toList();
      answers.put(question, Part.rows(own, asked.width()));
    }

    private List<@Nullable Object> told(List<@Nullable Object> row) {
      if (cast || asked.numbers()) {
        return row;
      }
      List<@Nullable Object> texts = new ArrayList<>();
      row.forEach(value -> texts.add(value == null ? null : ValueText.of(value)));
      return texts;
    }
  }
}
