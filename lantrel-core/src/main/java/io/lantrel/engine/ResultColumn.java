package io.lantrel.engine;

import io.lantrel.catalog.ColumnType;
import java.util.regex.Pattern;

/**
 * A column of a result.
 *
 * @param heading its name
 * @param type its type, in the words of the SQL standard where there is one
 */
public record ResultColumn(String heading, ColumnType type) {

  private static final Pattern GIVEN = Pattern.compile("[\\p{L}_][\\p{L}\\p{N}_ ]*");

  /** Whether somebody gave a heading; others an engine makes up, each in its way. */
  public static boolean isGiven(String heading) {
    return GIVEN.matcher(heading).matches();
  }
}
