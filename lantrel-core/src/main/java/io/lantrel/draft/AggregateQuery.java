package io.lantrel.draft;

import java.util.ArrayList;
import java.util.List;

/**
 * A figure as a query of its own in the select list. Where the way to the counted rows leads over a
 * junction they could come twice; then they are found by EXISTS, each once.
 */
final class AggregateQuery {

  /** How the text around it is written. */
  interface Style {
    /** A keyword. */
    String keyword(String word);

    /** A table with its alias. */
    String table(Use use);

    /** A join as a part of FROM. */
    String join(JoinAlongReference join, String word);

    /**
     * What stands before a clause.
     *
     * @param depth 0 in the query itself, 1 in that of its EXISTS
     */
    String gap(int depth);
  }

  private final Item item;
  private final List<JoinAlongReference> route;
  private final List<Conditions.Written> conditions;
  private final Style style;

  /**
   * @param route from the row that it is worked out for to the rows that it is worked out over
   * @param conditions that these rows must meet, over the tables of the route
   */
  AggregateQuery(
      Item item, List<JoinAlongReference> route, List<Conditions.Written> conditions, Style style) {
    this.item = item;
    this.route = route;
    this.conditions = conditions;
    this.style = style;
  }

  /** Whether a row of the last table may be reached over several of the tables between. */
  static boolean mayRepeat(List<JoinAlongReference> route) {
    boolean down = false;
    for (JoinAlongReference join : route) {
      if (down && join.up()) {
        return true;
      }
      down |= !join.up();
    }
    return false;
  }

  /** Whether it stays the same if rows come several times. */
  static boolean bearsRepeats(Item item) {
    return item.different()
        || item.aggregate() == Item.Aggregate.LEAST
        || item.aggregate() == Item.Aggregate.GREATEST;
  }

  String text() {
    boolean once = mayRepeat(route) && !bearsRepeats(item);
    Use counted = route.get(route.size() - 1).to();
    String figure = DraftBuilder.call(item, counted, style);
    List<String> where = new ArrayList<>();
    where.add(route.get(0).condition());
    if (once) {
      where.add(route.get(route.size() - 1).condition());
    }
    conditions.forEach(each -> where.add(each.text()));
    StringBuilder from = new StringBuilder(style.table(route.get(0).to()));
    for (JoinAlongReference join : route.subList(1, once ? route.size() - 1 : route.size())) {
      from.append(' ').append(style.join(join, "JOIN"));
    }
    if (!once) {
      return query(figure, from.toString(), joined(where), " ");
    }
    String exists = query("1", from.toString(), joined(where), style.gap(1));
    return query(
        figure, style.table(counted), style.keyword("EXISTS") + " " + exists, style.gap(0));
  }

  private String joined(List<String> conditions) {
    return String.join(" " + style.keyword("AND") + " ", conditions);
  }

  private String query(String value, String from, String where, String gap) {
    return "("
        + style.keyword("SELECT")
        + " "
        + value
        + gap
        + style.keyword("FROM")
        + " "
        + from
        + gap
        + style.keyword("WHERE")
        + " "
        + where
        + ")";
  }
}
