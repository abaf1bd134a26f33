package io.lantrel.survey;

import io.lantrel.catalog.ColumnType;
import java.util.Set;

/** Types as far as a survey tells them apart: only values of one kind can refer to each other. */
enum ValueKind {
  NUMBER,
  TEXT,
  UUID,
  /** Dates, times, truth values: they can be counted, and they name no row. */
  MEASURE,
  /** Not every engine can count different values of these. */
  OPAQUE;

  private static final Set<String> NUMBERS =
      Set.of("HUGEINT", "UTINYINT", "USMALLINT", "UINTEGER", "UBIGINT");
  private static final Set<String> TEXTS = Set.of("ENUM");
  private static final Set<String> MEASURES = Set.of("TIMESTAMPTZ", "YEAR", "MONEY");

  static ValueKind of(ColumnType type) {
    return switch (type.family()) {
      case INTEGER, DECIMAL -> NUMBER;
      case TEXT -> TEXT;
      case FLOAT, TRUTH, DATE, TIME, TIMESTAMP -> MEASURE;
      case OTHER -> ofWord(type);
    };
  }

  private static ValueKind ofWord(ColumnType type) {
    String word = type.word();
    if (word.equals("UUID")) {
      return UUID;
    }
    if (NUMBERS.contains(word)) {
      return NUMBER;
    }
    if (TEXTS.contains(word)) {
      return TEXT;
    }
    boolean zoned = word.equals("TIMESTAMP") || word.equals("TIME");
    return zoned || MEASURES.contains(word) ? MEASURE : OPAQUE;
  }
}
