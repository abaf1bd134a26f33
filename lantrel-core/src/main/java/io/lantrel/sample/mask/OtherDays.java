package io.lantrel.sample.mask;

import io.lantrel.catalog.TypeFamily;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;

/** Days that stand for others: all are moved by one number of days, so the time between stays. */
final class OtherDays {

  private static final int DATE_LENGTH = 10;

  private OtherDays() {}

  /**
   * What stands for each value.
   *
   * @param family whether a time follows the date
   */
  static Map<String, String> of(Set<String> values, TypeFamily family) {
    Set<LocalDate> days = new HashSet<>();
    values.stream().filter(OtherDays::isDay).forEach(each -> days.add(day(each)));
    long by = 1;
    while (!isFree(days, by)) {
      by++;
    }
    Map<String, String> others = new HashMap<>();
    for (String each : values) {
      others.put(
          each,
          isDay(each) ? day(each).plusDays(by) + each.substring(DATE_LENGTH) : nothing(family));
    }
    return others;
  }

  private static boolean isFree(Set<LocalDate> days, long by) {
    return days.stream().noneMatch(each -> days.contains(each.plusDays(by)));
  }

  private static boolean isDay(String value) {
    return value.matches("[0-9]{4}-[0-9]{2}-[0-9]{2}.*");
  }

  private static LocalDate day(String value) {
    return LocalDate.parse(value.substring(0, DATE_LENGTH));
  }

  /** What is beyond all calendars, as infinity, tells nothing of anybody. */
  private static String nothing(TypeFamily family) {
    return family == TypeFamily.DATE ? "9999-12-31" : "9999-12-31 00:00:00";
  }
}
