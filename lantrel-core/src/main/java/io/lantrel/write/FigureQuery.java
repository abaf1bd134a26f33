package io.lantrel.write;

import java.util.List;

/**
 * A figure as a query of its own in the select list. Where the way to the counted rows leads over a
 * junction they could come twice; then they are found by EXISTS, each once.
 */
final class FigureQuery {

  private final Item item;
  private final List<Leg> legs;

  FigureQuery(Item item, List<Leg> legs) {
    this.item = item;
    this.legs = legs;
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

  String text(Additions style) {
    Use counted = legs.get(legs.size() - 1).to();
    boolean least = item.figure() == Item.Figure.LEAST || item.figure() == Item.Figure.GREATEST;
    return mayRepeat(legs) && !least && !item.different() ? overOnce(counted, style) : plain(style);
  }

  private String plain(Additions style) {
    StringBuilder from = new StringBuilder(style.table(legs.get(0).to()));
    for (Leg leg : legs.subList(1, legs.size())) {
      from.append(' ').append(style.join(leg, "JOIN"));
    }
    Use counted = legs.get(legs.size() - 1).to();
    return query(Sheet.call(item, counted), from.toString(), legs.get(0).condition(), style);
  }

  private String overOnce(Use counted, Additions style) {
    StringBuilder from = new StringBuilder(style.table(legs.get(0).to()));
    for (Leg leg : legs.subList(1, legs.size() - 1)) {
      from.append(' ').append(style.join(leg, "JOIN"));
    }
    String both =
        legs.get(0).condition()
            + " "
            + style.keyword("AND")
            + " "
            + legs.get(legs.size() - 1).condition();
    String exists = style.keyword("EXISTS") + " " + query("1", from.toString(), both, style);
    return query(Sheet.call(item, counted), style.table(counted), exists, style);
  }

  private static String query(String value, String from, String where, Additions style) {
    return "("
        + style.keyword("SELECT")
        + " "
        + value
        + " "
        + style.keyword("FROM")
        + " "
        + from
        + " "
        + style.keyword("WHERE")
        + " "
        + where
        + ")";
  }
}
