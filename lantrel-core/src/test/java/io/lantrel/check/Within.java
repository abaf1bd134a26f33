package io.lantrel.check;

import java.util.List;

/** Queries put into others: a fault is to be found wherever it stands. */
final class Within {

  private Within() {}

  /**
   * Each fault as a part of other queries, with its kind behind.
   *
   * @param faults the kind and a query that shows one column of whole numbers or of one text
   * @param table another table that the places read
   * @param key its column of whole numbers
   * @param label its name
   * @param group what its rows are grouped by
   */
  static Object[][] others(
      List<List<String>> faults, String table, String key, String label, String group) {
    String of = " FROM " + table + " y";
    List<String> places =
        List.of(
            "SELECT COUNT(*) AS n FROM (%s) AS part",
            "WITH part AS (%s) SELECT COUNT(*) AS n FROM part",
            "%s UNION ALL SELECT y." + key + of,
            "SELECT y." + label + of + " WHERE y." + key + " IN (%s)",
            "SELECT y." + label + ", (SELECT COUNT(*) FROM (%s) AS part) AS n" + of,
            "SELECT y."
                + group
                + ", COUNT(*) AS n"
                + of
                + " GROUP BY y."
                + group
                + " HAVING COUNT(*) < (SELECT COUNT(*) FROM (%s) AS part)");
    return faults.stream()
        .flatMap(
            fault ->
                places.stream()
                    .map(place -> new Object[] {String.format(place, fault.get(1)), fault.get(0)}))
        .toArray(Object[][]::new);
  }
}
