package io.lantrel.compare.asked;

import io.lantrel.compare.ExpectedTable;
import io.lantrel.engine.Database;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.ResultColumn;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Counting;
import io.lantrel.probe.HeldConstraints;
import io.lantrel.probe.Question;
import io.lantrel.resolve.Resolution;
import io.lantrel.sql.tree.Query;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/** One of the two results that are compared. */
public sealed interface Side {

  /** What it is called, as its file. */
  String name();

  /** Its columns. */
  List<ResultColumn> columns();

  /** Hands over its rows one by one, in their order. */
  void each(Consumer<List<@Nullable Object>> reader);

  /** Whether its rows have an order that was asked for. */
  boolean isOrdered();

  /** The query that gives it; empty for a table from a file. */
  default Optional<OfQuery> query() {
    return this instanceof OfQuery query ? Optional.of(query) : Optional.empty();
  }

  /**
   * The result of a query.
   *
   * @param name what it is called
   * @param database where it runs
   * @param held which constraints its rows keep
   * @param resolution what its names mean
   */
  record OfQuery(String name, Database database, HeldConstraints held, Resolution resolution)
      implements Side {

    /** How many rows it has; what is shown of them is worked out, so that it fails if that does. */
    long count() {
      try {
        return new Asker(database).ask(Question.number(Counting.producedRows(resolution.result())));
      } catch (DatabaseException refused) {
        throw SideFailure.of(name, refused);
      }
    }

    Query tree() {
      return resolution.result().query();
    }

    @Override
    public List<ResultColumn> columns() {
      try {
        return database.columns(tree());
      } catch (DatabaseException refused) {
        throw SideFailure.of(name, refused);
      }
    }

    @Override
    public void each(Consumer<List<@Nullable Object>> reader) {
      try {
        database.each(tree(), reader);
      } catch (DatabaseException refused) {
        throw SideFailure.of(name, refused);
      }
    }

    @Override
    public boolean isOrdered() {
      return !tree().orderBy().isEmpty();
    }
  }

  /**
   * The same rows with their columns in another order.
   *
   * @param place for each column, where it stands in the side
   */
  record Arranged(Side side, List<Integer> place) implements Side {

    @Override
    public String name() {
      return side.name();
    }

    @Override
    public List<ResultColumn> columns() {
      List<ResultColumn> columns = side.columns();
      return place.stream().map(columns::get).toList();
    }

    @Override
    public void each(Consumer<List<@Nullable Object>> reader) {
      side.each(
          row -> {
            List<@Nullable Object> arranged = new ArrayList<>();
            place.forEach(at -> arranged.add(row.get(at)));
            reader.accept(arranged);
          });
    }

    @Override
    public boolean isOrdered() {
      return side.isOrdered();
    }
  }

  /** A table that is expected; its rows stand in the order that they have. */
  record OfTable(ExpectedTable table) implements Side {

    @Override
    public String name() {
      return table.name();
    }

    @Override
    public List<ResultColumn> columns() {
      return table.headings().stream()
          .map(heading -> new ResultColumn(heading, Likeness.UNTYPED))
          .toList();
    }

    @Override
    public void each(Consumer<List<@Nullable Object>> reader) {
      table.rows().forEach(reader);
    }

    @Override
    public boolean isOrdered() {
      return true;
    }
  }
}
