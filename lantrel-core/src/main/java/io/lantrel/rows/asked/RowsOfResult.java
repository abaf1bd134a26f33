package io.lantrel.rows.asked;

import io.lantrel.engine.Database;
import io.lantrel.engine.Rows;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Counting;
import io.lantrel.probe.Question;
import io.lantrel.resolve.Binding;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.rows.ShownRows;
import io.lantrel.rows.ShownRows.Cell;
import io.lantrel.rows.ShownRows.Heading;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** The first rows of a result, with the count of all. */
public final class RowsOfResult {

  private final Database database;

  public RowsOfResult(Database database) {
    this.database = database;
  }

  /**
   * Runs the query.
   *
   * @param resolution what its names mean
   * @param most how many rows are wanted at most
   * @throws io.lantrel.engine.DatabaseException if the database does not run it
   */
  public ShownRows make(Resolution resolution, int most) {
    return database.inSnapshot(() -> counted(resolution, most));
  }

  private ShownRows counted(Resolution resolution, int most) {
    Query query = resolution.result().query();
    Optional<QueryBlock> block = resolution.result().block();
    Rows rows = database.run(query, most);
    long count = rows.cut() ? count(query, block, rows.headings()) : rows.size();
    List<Heading> headings = new ArrayList<>();
    for (int i = 0; i < rows.headings().size(); i++) {
      headings.add(
          new Heading(rows.headings().get(i), table(block, i, rows), isNumber(rows, i), false));
    }
    return new ShownRows(headings, rows.rows().stream().map(RowsOfResult::cells).toList(), count);
  }

  private long count(Query query, Optional<QueryBlock> block, List<String> headings) {
    Query counting = block.map(Counting::rows).orElseGet(() -> Counting.rows(query, headings));
    return new Asker(database).ask(Question.number(counting));
  }

  private static String table(Optional<QueryBlock> block, int position, Rows rows) {
    return block
        .filter(each -> each.outputs().size() == rows.headings().size())
        .map(each -> table(each, each.outputs().get(position)))
        .orElse("");
  }

  private static String table(QueryBlock block, OutputColumn output) {
    return output.value() instanceof ColumnName name
            && block.binding(name) instanceof Binding.ToColumn bound
        ? bound.column().use().name()
        : "";
  }

  private static boolean isNumber(Rows rows, int column) {
    return rows.size() > 0
        && rows.rows().stream()
            .map(row -> row.get(column))
            .allMatch(value -> value == null || value instanceof Number);
  }

  private static List<Cell> cells(List<@Nullable Object> row) {
    List<Cell> cells = new ArrayList<>();
    row.forEach(value -> cells.add(new Cell(value, false)));
    return cells;
  }
}
