package io.lantrel.survey;

import java.util.List;

/**
 * Values of a column that are worth seeing.
 *
 * @param frequent those that most rows hold, with how many; empty if no value comes twice
 * @param rare those that the fewest rows hold, without those of {@code frequent}
 * @param least the least value, as text; empty for texts, and where there is none
 * @param greatest the greatest value, as text; empty for texts, and where there is none
 * @param emptyTexts rows whose text has no character; they are not NULL
 * @param blanksAtEnds rows whose text begins or ends with a blank
 * @param sameButForCase how many values are another one but for upper and lower case
 */
public record ColumnValues(
    List<Counted> frequent,
    List<Counted> rare,
    String least,
    String greatest,
    long emptyTexts,
    long blanksAtEnds,
    long sameButForCase) {

  public ColumnValues {
    frequent = List.copyOf(frequent);
    rare = List.copyOf(rare);
  }

  /** A value, and how many rows hold it. */
  public record Counted(String value, long rows) {}
}
