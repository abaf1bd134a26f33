package io.lantrel.resolve;

import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A query among the values and conditions of a block.
 *
 * @param query the query
 * @param clause where it stands: {@code WHERE}
 */
public record Subquery(Query query, String clause) {

  /** Those of a block, and not those in them, in the order of the clauses. */
  public static List<Subquery> of(QueryBlock block) {
    List<Subquery> found = new ArrayList<>();
    QueryBody.Select select = block.select();
    select.items().forEach(item -> collect(item, "SELECT", found));
    FromItem from = select.from();
    if (from != null) {
      conditions(from, found);
    }
    collect(select.where(), "WHERE", found);
    select.groupBy().forEach(value -> collect(value, "GROUP BY", found));
    collect(select.having(), "HAVING", found);
    collect(select.qualify(), "QUALIFY", found);
    block.query().orderBy().forEach(item -> collect(item, "ORDER BY", found));
    return found;
  }

  private static void conditions(FromItem item, List<Subquery> found) {
    if (item instanceof FromItem.Join join) {
      conditions(join.left(), found);
      conditions(join.right(), found);
      if (join.condition() instanceof JoinCondition.On on) {
        collect(on.condition(), "ON", found);
      }
    }
  }

  private static void collect(@Nullable Node node, String clause, List<Subquery> found) {
    if (node instanceof Query query) {
      found.add(new Subquery(query, clause));
    } else if (node != null) {
      node.children().forEach(child -> collect(child, clause, found));
    }
  }

  /** Whether it is looked at for each joined row: not so in the condition of a join, or later. */
  public boolean isOfJoinedRows() {
    return clause.equals("WHERE") || clause.equals("SELECT");
  }

  /**
   * What it is called: {@code the subquery in WHERE}, or {@code subquery 2 in WHERE}.
   *
   * @param all those of the block
   */
  public String words(List<Subquery> all) {
    List<Subquery> alike = all.stream().filter(each -> each.clause().equals(clause)).toList();
    return alike.size() == 1
        ? "the subquery in " + clause
        : "subquery " + (alike.indexOf(this) + 1) + " in " + clause;
  }
}
