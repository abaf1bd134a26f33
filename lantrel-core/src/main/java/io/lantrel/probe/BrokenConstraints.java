package io.lantrel.probe;

import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.engine.SampleData;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;

/** Questions whether rows break a constraint of their table. */
public final class BrokenConstraints {

  private static final String ROW = SampleData.RESERVED + "t";
  private static final String OTHER = SampleData.RESERVED + "k";

  private BrokenConstraints() {}

  /** Whether two rows agree in all columns of a key, none of them NULL. */
  public static Question<Boolean> key(Table table, List<String> columns, Dialect dialect) {
    List<Expression> values = columns(ROW, columns, dialect);
    return any(
        new QueryBody.Select(
            Span.NOWHERE,
            false,
            List.of(Sql.as(Sql.number(1), "one")),
            Sql.table(table, ROW, dialect),
            Sql.all(values.stream().map(Sql::isNotNull).toList()),
            values,
            Sql.greater(Sql.count(), Sql.number(1))));
  }

  /** Whether a column is NULL in a row. */
  public static Question<Boolean> notNull(Table table, String column, Dialect dialect) {
    return any(rows(table, Sql.isNull(Sql.column(ROW, column, dialect)), dialect));
  }

  /** Whether a row has a value in all referring columns, and no row has such a key. */
  public static Question<Boolean> reference(Reference reference, Dialect dialect) {
    List<Expression> from = columns(ROW, reference.fromColumns(), dialect);
    List<Expression> to = columns(OTHER, reference.toColumns(), dialect);
    List<Expression> conditions = new ArrayList<>();
    List<Expression> found = new ArrayList<>();
    for (int i = 0; i < from.size(); i++) {
      conditions.add(Sql.isNotNull(from.get(i)));
      found.add(Sql.equal(to.get(i), from.get(i)));
    }
    conditions.add(Sql.not(Sql.exists(Sql.table(reference.to(), OTHER, dialect), Sql.all(found))));
    return any(rows(reference.from(), Sql.all(conditions), dialect));
  }

  private static QueryBody rows(Table table, Expression condition, Dialect dialect) {
    return Sql.select(
        List.of(Sql.as(Sql.number(1), "one")), Sql.table(table, ROW, dialect), condition);
  }

  private static Question<Boolean> any(QueryBody breaking) {
    Relation relation = Relation.of(Sql.derived(breaking, SampleData.RESERVED + "b"), null);
    return Question.figures(relation, List.of(Sql.count()), rows -> rows.figure(0) > 0);
  }

  private static List<Expression> columns(String alias, List<String> names, Dialect dialect) {
    return names.stream().map(name -> Sql.column(alias, name, dialect)).toList();
  }
}
