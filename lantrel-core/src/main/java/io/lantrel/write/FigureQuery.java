package io.lantrel.write;

import java.util.ArrayList;
import java.util.List;

/**
 * A figure as a query of its own in the select list. Where the way to the counted rows leads over a
 * junction they could come twice; then they are found by EXISTS, each once.
 */
final class FigureQuery {

  /** How the text around it is written. */
  interface Style {
    /** A keyword. */
    String keyword(String word);

    /** A table with its alias. */
    String table(Use use);

    /** A join as a part of FROM. */
    String join(Leg leg, String word);

    /**
     * What stands before a clause.
     *
     * @param depth 0 in the query itself, 1 in that of its EXISTS
     */
    String gap(int depth);
  }

  private final Item item;
  private final List<Leg> legs;
  private final List<Conditions.Written> conditions;
  private final Style style;

  /**
   * @param legs from the row that it is worked out for to the rows that it is worked out over
   * @param conditions that these rows must meet, over the tables of the legs
   */
  FigureQuery(Item item, List<Leg> legs, List<Conditions.Written> conditions, Style style) {
    this.item = item;
    this.legs = legs;
    this.conditions = conditions;
    this.style = style;
  }

  /** Whether a row of the last table may be reached over several of the tables between. */
  static boolean mayRepeat(List<Leg> legs) {
    boolean down = false;
    for (Leg leg : legs) {
      if (down && leg.up()) {
        return true;
      }
      down |= !leg.up();
    }
    return false;
  }

  /** Whether it stays the same if rows come several times. */
  static boolean bearsRepeats(Item item) {
    return item.different()
        || item.figure() == Item.Figure.LEAST
        || item.figure() == Item.Figure.GREATEST;
  }

  String text() {
    boolean once = mayRepeat(legs) && !bearsRepeats(item);
    Use counted = legs.get(legs.size() - 1).to();
    String figure = Sheet.call(item, counted, style);
    List<String> where = new ArrayList<>();
    where.add(legs.get(0).condition());
    if (once) {
      where.add(legs.get(legs.size() - 1).condition());
    }
    conditions.forEach(each -> where.add(each.text()));
    StringBuilder from = new StringBuilder(style.table(legs.get(0).to()));
    for (Leg leg : legs.subList(1, once ? legs.size() - 1 : legs.size())) {
      from.append(' ').append(style.join(leg, "JOIN"));
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
