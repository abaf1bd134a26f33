package io.lantrel.rewrite.forms;

import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.rewrite.forms.Ties.Tie;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * IN and EXISTS as JOIN. A row has one partner at most, so that none is repeated: by a key of the
 * joined table, or because the joined rows are made different.
 */
final class PresenceToJoin {

  private final Reading reading;
  private final QueryBlock block;

  PresenceToJoin(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
  }

  FormEdits change() {
    List<Expression> terms = reading.edits(block).terms();
    FormEdits stays = FormEdits.NONE;
    for (Expression term : terms) {
      Optional<Query> query = query(term);
      if (query.isPresent()) {
        FormEdits change = change(term, query.get());
        if (!change.isNone()) {
          return change;
        }
        stays = change.caveat() != null ? change : stays;
      }
    }
    boolean elsewhere =
        Aggregates.withoutQueries(block.select())
            .filter(node -> node instanceof Condition condition && query(condition).isPresent())
            .anyMatch(node -> !terms.contains(node) && !isNegated(node));
    return stays.caveat() == null && elsewhere
        ? FormEdits.stays(
            "IN or EXISTS beside OR, or outside of WHERE, stays: a join there would change the rows")
        : stays;
  }

  private static Optional<Query> query(Expression condition) {
    if (condition instanceof Condition.InQuery in && !in.negated()) {
      return Optional.of(in.query());
    }
    return condition instanceof Condition.Exists exists
        ? Optional.of(exists.query())
        : Optional.empty();
  }

  /** NOT IN and NOT EXISTS are other forms. */
  private boolean isNegated(Object condition) {
    return Absence.conditions(block, Condition.Not.class)
        .anyMatch(not -> not.value().equals(condition));
  }

  private FormEdits change(Expression term, Query query) {
    Optional<QueryBlock> plain =
        Absence.plain(reading, query).filter(each -> query.orderBy().isEmpty());
    if (plain.isEmpty() || block.select().from() == null) {
      String word = term instanceof Condition.Exists ? "EXISTS" : "IN";
      return FormEdits.stays(
          plain.isEmpty()
              ? word + " over groups, an order, a limit or parts stays"
              : word + " stays: there is no FROM here to join it to");
    }
    QueryBlock inner = plain.get();
    List<Expression> values =
        term instanceof Condition.InQuery in ? NotInToNotExists.values(in) : List.of();
    if (term instanceof Condition.InQuery && NameForms.hasStar(inner)) {
      return FormEdits.of(NameForms.columns(reading, inner));
    }
    Ties ties = Ties.of(reading, inner);
    boolean fits = term instanceof Condition.Exists || values.size() == inner.outputs().size();
    if (!ties.areAll() || !fits || ties.equalities().size() + values.size() == 0) {
      return FormEdits.stays(
          "a query of IN or EXISTS stays if anything but equalities, or nothing at all, connects it"
              + " with the row outside");
    }
    JoinedSubquery joined = new JoinedSubquery(reading, block, inner);
    List<Edit> before = joined.before();
    return FormEdits.of(
        before.isEmpty() ? join(term, inner, joined, pairs(term, inner, values, ties)) : before);
  }

  private static List<Tie> pairs(
      Expression term, QueryBlock inner, List<Expression> values, Ties ties) {
    List<Tie> pairs = new ArrayList<>();
    for (int i = 0; i < values.size(); i++) {
      pairs.add(new Tie(term, inner.outputs().get(i).value(), values.get(i)));
    }
    pairs.addAll(ties.equalities());
    return pairs;
  }

  private List<Edit> join(
      Expression term, QueryBlock inner, JoinedSubquery joined, List<Tie> pairs) {
    String and = " " + reading.edits(block).keyword("AND") + " ";
    List<Edit> edits = new ArrayList<>();
    if (isSingle(inner, pairs)) {
      List<String> on = new ArrayList<>();
      for (Tie pair : pairs) {
        if (pair.whole().equals(term)) {
          on.add(reading.operand(pair.inner()) + " = " + reading.operand(pair.outer()));
        }
      }
      List<Expression> terms = reading.edits(inner).terms();
      if (!terms.isEmpty()) {
        on.add(reading.conjunction(inner, terms));
      }
      edits.add(joined.add("JOIN", joined.tables(), String.join(and, on)));
    } else {
      String alias = reading.aliases().like("listed");
      SubqueryTable table = new SubqueryTable(reading, inner, pairs, alias);
      List<Edit> apart = NameForms.apart(block, table.labels());
      if (!apart.isEmpty()) {
        return apart;
      }
      edits.add(joined.add("JOIN", table.distinct(), table.condition(and)));
    }
    edits.addAll(reading.edits(block).removeTerms(List.of(term)));
    return edits;
  }

  /** Whether a row outside has one partner at most, and columns of the tables tell which. */
  private static boolean isSingle(QueryBlock inner, List<Tie> pairs) {
    Set<UseColumn> compared = new HashSet<>();
    pairs.forEach(pair -> inner.column(pair.inner()).ifPresent(compared::add));
    return isSimple(inner) && inner.determinedBy(compared).containsAll(inner.uses());
  }

  private static boolean isSimple(QueryBlock inner) {
    return inner.outputs().stream()
        .map(OutputColumn::value)
        .noneMatch(value -> value.preorder().anyMatch(Query.class::isInstance));
  }
}
