package io.lantrel.compare.asked;

import io.lantrel.engine.Database;
import io.lantrel.engine.Rows;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.Sql;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Compares two queries of one database there: the rows of both are put together and counted for
 * each of the two, so that one statement tells how many differ. Only rows that do come out.
 */
final class InOneDatabase {

  private static final String FIRST = SampleData.RESERVED + "first";
  private static final String SECOND = SampleData.RESERVED + "second";
  private static final String BOTH = SampleData.RESERVED + "both";
  private static final String COUNTED = SampleData.RESERVED + "counted";

  /** Rows fall into so many parts by their checksum. */
  private static final int PARTS = 1_024;

  /** Up to so many parts that differ are looked at alone. */
  private static final int FEW = 64;

  private final Database database;
  private final List<CommonTable> with;
  private final List<String> columns;

  /** For each column whether it is a text: the database may take two for equal that differ. */
  private final List<Boolean> texts;

  /** Whether checksums come first. */
  private final boolean summed;

  InOneDatabase(Database database, Query first, Query second, Columns both) {
    this.database = database;
    this.texts = both.texts();
    this.summed = !database.isSmall() && both.areOfEqualTypes();
    this.columns = IntStream.range(0, texts.size()).mapToObj(i -> "c" + i).toList();
    this.with =
        List.of(Sql.named(FIRST, first, texts.size()), Sql.named(SECOND, second, texts.size()));
  }

  private Optional<Expression> checksum(String from) {
    return database
        .dialect()
        .checksum(columns.stream().map(name -> Sql.column(from, name)).toList());
  }

  /**
   * By checksums first, where the product has them: with equally many rows and the same sum of
   * checksums the rows are the same, but for one time in 2^64. Else rows fall into parts by their
   * checksum, and only parts of which that is not so are looked at. Small data are not worth it.
   *
   * @param order positions of the columns that differing rows are ordered by first
   */
  Bags compared(List<Integer> order) {
    Optional<Expression> first = checksum(FIRST);
    Optional<Expression> second = checksum(SECOND);
    if (!summed || first.isEmpty() || second.isEmpty()) {
      return bags(figures(counted(List.of())), order);
    }
    List<List<@Nullable Object>> whole =
        unionOf(whole(1, first.get(), FIRST), whole(2, second.get(), SECOND), 2).rows();
    if (whole.get(0).subList(1, 3).equals(whole.get(1).subList(1, 3))) {
      long rows = number(whole.get(0).get(1));
      return new Bags(rows, rows, 0, 0, List.of());
    }
    Rows parts = unionOf(parts(1, first.get(), FIRST), parts(2, second.get(), SECOND), 2 * PARTS);
    Map<Long, String> open = new HashMap<>();
    long[] all = new long[3];
    Set<Long> differing = new TreeSet<>();
    for (List<@Nullable Object> row : parts.rows()) {
      long part = number(row.get(1));
      all[(int) number(row.get(0))] += number(row.get(2));
      String found = row.get(2) + " " + row.get(3);
      @Nullable String other = open.putIfAbsent(part, found);
      if (other == null) {
        differing.add(part);
      } else if (other.equals(found)) {
        differing.remove(part);
      }
    }
    if (differing.isEmpty()) {
      return new Bags(all[1], all[2], 0, 0, List.of());
    }
    List<Long> few = differing.size() <= FEW ? List.copyOf(differing) : List.of();
    return differing(all, new ArrayList<>(order), few);
  }

  private Rows unionOf(QueryBody first, QueryBody second, int most) {
    return database.run(
        query(QueryBody.SetOperation.unionAll(List.of(first, second)), List.of()), most);
  }

  private static QueryBody whole(int side, Expression checksum, String from) {
    return Sql.select(
        List.of(
            Sql.as(Sql.number(side), "c0"),
            Sql.as(Sql.count(), "c1"),
            Sql.as(Sql.text(sum(checksum)), "c2")),
        Sql.table(from),
        null);
  }

  private static QueryBody parts(int side, Expression checksum, String from) {
    return Sql.grouped(
        List.of(
            Sql.as(Sql.number(side), "c0"),
            Sql.as(part(checksum), "c1"),
            Sql.as(Sql.count(), "c2"),
            Sql.as(Sql.text(sum(checksum)), "c3")),
        Sql.table(from),
        List.of(part(checksum)),
        null);
  }

  private static Expression part(Expression checksum) {
    return new Value.Arithmetic(
        Span.NOWHERE, Value.ArithmeticOperator.MODULO, checksum, Sql.number(PARTS));
  }

  private Rows figures(FromItem counted) {
    return database.ask(
        query(
            Sql.select(
                List.of(
                    Sql.as(sum(column("na")), "c0"),
                    Sql.as(sum(column("nb")), "c1"),
                    Sql.as(sum(surplus("na", "nb")), "c2"),
                    Sql.as(sum(surplus("nb", "na")), "c3")),
                counted,
                null),
            List.of()));
  }

  /** Rows that are known to differ, and how many there are, in one statement. */
  private Bags differing(long[] all, List<Integer> order, List<Long> parts) {
    List<SelectItem> sums =
        List.of(
            Sql.as(FunctionCall.overAll("SUM", surplus("na", "nb")), "sa"),
            Sql.as(FunctionCall.overAll("SUM", surplus("nb", "na")), "sb"));
    Rows rows = leftovers(order, parts, sums);
    int width = columns.size();
    return rows.size() == 0
        ? new Bags(all[1], all[2], 0, 0, List.of())
        : new Bags(
            all[1],
            all[2],
            number(rows.rows().get(0).get(width + 2)),
            number(rows.rows().get(0).get(width + 3)),
            rows.rows().stream().map(this::leftover).toList());
  }

  private Bags bags(Rows figures, List<Integer> order) {
    long onlyFirst = figures.figure(2);
    long onlySecond = figures.figure(3);
    List<Leftover> leftovers =
        onlyFirst + onlySecond == 0
            ? List.of()
            : leftovers(new ArrayList<>(order), List.of(), List.of()).rows().stream()
                .map(this::leftover)
                .toList();
    return new Bags(figures.figure(0), figures.figure(1), onlyFirst, onlySecond, leftovers);
  }

  private Rows leftovers(List<Integer> order, List<Long> parts, List<SelectItem> besides) {
    IntStream.range(0, columns.size()).filter(i -> !order.contains(i)).forEach(order::add);
    List<SelectItem> items = new ArrayList<>(shown(COUNTED));
    items.add(Sql.as(column("na"), "na"));
    items.add(Sql.as(column("nb"), "nb"));
    items.addAll(besides);
    List<OrderItem> by =
        order.stream().map(i -> OrderItem.by(Sql.column(COUNTED, columns.get(i)))).toList();
    return database.run(query(Sql.select(items, counted(parts), differs()), by), Bags.MOST);
  }

  private static Expression differs() {
    return new Condition.Comparison(
        Span.NOWHERE, Condition.ComparisonOperator.NOT_EQUAL, column("na"), column("nb"));
  }

  private Leftover leftover(List<@Nullable Object> row) {
    int width = columns.size();
    return new Leftover(row.subList(0, width), number(row.get(width)), number(row.get(width + 1)));
  }

  private static long number(@Nullable Object value) {
    return value == null ? 0 : ((Number) value).longValue();
  }

  private Query query(QueryBody body, List<OrderItem> order) {
    return new Query(Span.NOWHERE, false, with, body, order, null);
  }

  /**
   * Each row once, with how often it comes in the two.
   *
   * @param parts the parts that are looked at; empty for all
   */
  private FromItem counted(List<Long> parts) {
    List<SelectItem> items = new ArrayList<>(shown(BOTH));
    items.add(Sql.as(sum(Sql.column(BOTH, "a")), "na"));
    items.add(Sql.as(sum(Sql.column(BOTH, "b")), "nb"));
    List<Expression> groups = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      Expression column = Sql.column(BOTH, columns.get(i));
      groups.add(column);
      if (texts.get(i)) {
        database.dialect().tellingApart(column).ifPresent(groups::add);
      }
    }
    FromItem both =
        Sql.derived(
            QueryBody.SetOperation.unionAll(
                List.of(
                    marked(shown(FIRST), FIRST, 1, 0, parts),
                    marked(shown(SECOND), SECOND, 0, 1, parts))),
            BOTH);
    return Sql.derived(Sql.grouped(items, both, groups, null), COUNTED);
  }

  private QueryBody marked(
      List<SelectItem> shown, String side, int first, int second, List<Long> parts) {
    List<SelectItem> items = new ArrayList<>(shown);
    items.add(Sql.as(Sql.number(first), "a"));
    items.add(Sql.as(Sql.number(second), "b"));
    return Sql.select(items, Sql.table(side), parts.isEmpty() ? null : isIn(side, parts));
  }

  private @Nullable Expression isIn(String side, List<Long> parts) {
    List<Expression> numbers = parts.stream().map(Sql::number).toList();
    return checksum(side)
        .map(sum -> new Condition.InList(Span.NOWHERE, part(sum), numbers, false))
        .orElse(null);
  }

  private List<SelectItem> shown(String from) {
    return columns.stream().map(name -> Sql.as(Sql.column(from, name), name)).toList();
  }

  private static Expression column(String name) {
    return Sql.column(COUNTED, name);
  }

  private static Expression sum(Expression value) {
    return FunctionCall.of("SUM", value);
  }

  private static Expression surplus(String one, String other) {
    return Sql.choose(
        Sql.greater(column(one), column(other)),
        new Value.Arithmetic(
            Span.NOWHERE, Value.ArithmeticOperator.MINUS, column(one), column(other)),
        Sql.number(0));
  }
}
