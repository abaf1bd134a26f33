package io.lantrel.rewrite.forms;

import io.lantrel.catalog.Key;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;

/** NOT EXISTS as LEFT JOIN and a test that there is no partner. */
final class ExistsToJoin {

  private final Reading reading;
  private final QueryBlock block;

  ExistsToJoin(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
  }

  FormEdits change() {
    List<Expression> terms = reading.edits(block).terms();
    Optional<Condition.Not> found =
        Absence.conditions(block, Condition.Not.class)
            .filter(not -> not.value() instanceof Condition.Exists)
            .findFirst();
    if (found.isEmpty()) {
      return FormEdits.NONE;
    }
    if (!terms.contains(found.get())) {
      throw new RewriteException(
          "NOT EXISTS stands beside OR, or outside of WHERE, where a join would change the rows");
    }
    return FormEdits.of(edits(found.get()));
  }

  private List<Edit> edits(Condition.Not not) {
    Query query = ((Condition.Exists) not.value()).query();
    QueryBlock inner =
        Absence.plain(reading, query)
            .filter(each -> each.select().where() != null && block.select().from() != null)
            .orElseThrow(
                () ->
                    new RewriteException(
                        "NOT EXISTS can be written as a join only if its query is a plain SELECT,"
                            + " FROM and WHERE"));
    JoinedSubquery joined = new JoinedSubquery(reading, block, inner);
    List<Edit> before = joined.stars();
    // Behind a comma it can stand, if it depends on one of the items alone.
    boolean between = JoinedSubquery.hasComma(block) && !JoinedSubquery.hasComma(inner);
    if (before.isEmpty() && !(between && places(not).size() == 1)) {
      before = joined.commas();
    }
    if (before.isEmpty()) {
      before = joined.names();
    }
    return before.isEmpty() ? join(not, inner, joined) : before;
  }

  private List<Edit> join(Condition.Not not, QueryBlock inner, JoinedSubquery joined) {
    String on = reading.text(Objects.requireNonNull(inner.select().where()));
    List<Edit> edits = new ArrayList<>();
    edits.add(reading.edits(block).addToFrom("LEFT JOIN", joined.tables(), on, place(not)));
    String test = witness(inner).written() + " " + reading.edits(block).keyword("IS NULL");
    edits.add(new Edit(not.span(), test));
    return edits;
  }

  /** Behind all tables; between commas, behind the one that the query depends on. */
  private int place(Condition.Not not) {
    return JoinedSubquery.hasComma(block)
        ? places(not).iterator().next()
        : Objects.requireNonNull(block.select().from()).span().end();
  }

  private Set<Integer> places(Condition.Not not) {
    Set<Integer> places = new HashSet<>();
    block.mentioned(not).forEach(use -> places.add(reading.edits(block).behind(use)));
    return places;
  }

  /** A column that is never NULL in a partner: best the key, else one that must equal something. */
  private static UseColumn witness(QueryBlock inner) {
    List<UseColumn> present = new ArrayList<>();
    for (TableUse use : inner.uses()) {
      if (inner.stepsThatFill(use).isEmpty()) {
        use.keys().stream()
            .filter(Key::primary)
            .flatMap(key -> key.columns().stream())
            .flatMap(name -> use.column(name).stream())
            .filter(column -> !column.nullable())
            .forEach(present::add);
      }
    }
    inner.uses().stream()
        .flatMap(use -> use.columns().stream())
        .filter(inner::isNeverNull)
        .forEach(present::add);
    return present.stream()
        .findFirst()
        .orElseThrow(
            () ->
                new RewriteException(
                    "no column of "
                        + Reading.names(inner.uses())
                        + " is known never to be NULL, so that none can tell a missing row"));
  }
}
