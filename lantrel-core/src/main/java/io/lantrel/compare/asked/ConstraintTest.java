package io.lantrel.compare.asked;

import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.compare.proof.Constraint;
import io.lantrel.engine.Database;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.QueryBody;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;

/**
 * Whether the data at hand keep constraints. A live database sees to keys and NOT NULL itself; not
 * every one sees to references.
 */
final class ConstraintTest {

  private static final String ROW = SampleData.RESERVED + "t";
  private static final String PARTNER = SampleData.RESERVED + "k";

  private final Database database;
  private final Dialect dialect;

  ConstraintTest(Database database) {
    this.database = database;
    this.dialect = database.dialect();
  }

  /** Those that the data break; one round for all. */
  List<Constraint> broken(List<Constraint> constraints) {
    Map<Constraint, Question<Boolean>> questions = new LinkedHashMap<>();
    constraints.stream()
        .filter(each -> !database.isLive() || each.kind() == Constraint.Kind.REFERENCE)
        .forEach(each -> questions.put(each, question(each)));
    if (questions.isEmpty()) {
      return List.of();
    }
    Answers answers = new Asker(database).ask(List.copyOf(questions.values()));
    return questions.entrySet().stream()
        .filter(each -> answers.to(each.getValue()))
        .map(Map.Entry::getKey)
        .toList();
  }

  private Question<Boolean> question(Constraint constraint) {
    Table table = constraint.table();
    List<Expression> columns = columns(ROW, constraint.columns());
    FromItem rows = Sql.table(table, ROW, dialect);
    QueryBody breaking =
        switch (constraint.kind()) {
          case NOT_NULL -> one(rows, Sql.any(columns.stream().map(Sql::isNull).toList()));
          case KEY ->
              Sql.grouped(
                  List.of(Sql.as(Sql.number(1), "one")),
                  isPrimary(constraint) ? rows : withValues(table, constraint.columns()),
                  isPrimary(constraint) ? columns : plain(columns.size()),
                  Sql.greater(Sql.count(), Sql.number(1)));
          case REFERENCE -> one(rows, isToNothing(constraint.ifReference().orElseThrow()));
        };
    Relation relation = Relation.of(Sql.derived(breaking, SampleData.RESERVED + "b"), null);
    return Question.figures(relation, List.of(Sql.count()), answer -> answer.figure(0) > 0);
  }

  /** Two rows of a primary key may not even agree in NULL. */
  private static boolean isPrimary(Constraint constraint) {
    return constraint.table().keys().stream()
        .filter(Key::primary)
        .anyMatch(key -> key.columns().equals(constraint.columns()));
  }

  private FromItem withValues(Table table, List<String> names) {
    List<Expression> columns = columns(ROW, names);
    return Sql.derived(
        Sql.select(
            IntStream.range(0, columns.size())
                .mapToObj(i -> Sql.as(columns.get(i), "c" + i))
                .toList(),
            Sql.table(table, ROW, dialect),
            Sql.all(columns.stream().map(Sql::isNotNull).toList())),
        PARTNER);
  }

  private static List<Expression> plain(int columns) {
    return IntStream.range(0, columns).mapToObj(i -> Sql.column(PARTNER, "c" + i)).toList();
  }

  private static QueryBody one(FromItem rows, Expression condition) {
    return Sql.select(List.of(Sql.as(Sql.number(1), "one")), rows, condition);
  }

  /** Whether all referring columns have a value, and no row has such a key. */
  private Expression isToNothing(Reference reference) {
    List<Expression> from = columns(ROW, reference.fromColumns());
    List<Expression> to = columns(PARTNER, reference.toColumns());
    List<Expression> found = new ArrayList<>();
    for (int i = 0; i < from.size(); i++) {
      found.add(Sql.equal(to.get(i), from.get(i)));
    }
    List<Expression> all = new ArrayList<>(from.stream().map(Sql::isNotNull).toList());
    all.add(Sql.not(Sql.exists(Sql.table(reference.to(), PARTNER, dialect), Sql.all(found))));
    return Sql.all(all);
  }

  private List<Expression> columns(String alias, List<String> names) {
    return names.stream().map(name -> Sql.column(alias, name, dialect)).toList();
  }
}
