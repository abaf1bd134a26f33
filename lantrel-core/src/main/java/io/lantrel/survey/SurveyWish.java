package io.lantrel.survey;

import io.lantrel.catalog.Table;
import java.util.function.Predicate;

/**
 * Which tables a survey shows, and how much of each. What is said of them is what all tables
 * together tell, also of those that are not shown.
 *
 * @param tables says of a table whether it is shown
 * @param rows how many rows of each table are shown, 0 or more
 * @param values whether values worth seeing are looked for: frequent and rare ones, empty texts,
 *     blanks at the ends, texts that differ in case alone; about as dear as the rest of the survey
 */
public record SurveyWish(Predicate<Table> tables, int rows, boolean values) {

  /** How many rows of each table are shown, if nothing else is asked for. */
  public static final int ROWS = 3;

  /** All tables. */
  public static SurveyWish all() {
    return new SurveyWish(table -> true, ROWS, false);
  }

  /** The same of some tables only. */
  public SurveyWish only(Predicate<Table> which) {
    return new SurveyWish(which, rows, values);
  }

  /** The same with so many rows of each table. */
  public SurveyWish showing(int most) {
    return new SurveyWish(tables, most, values);
  }

  /** The same with values worth seeing. */
  public SurveyWish withValues() {
    return new SurveyWish(tables, rows, true);
  }
}
