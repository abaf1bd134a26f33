package io.lantrel.catalog;

/** Types whose values are written and compared alike. */
public enum TypeFamily {
  INTEGER,
  DECIMAL,
  FLOAT,
  TEXT,
  TRUTH,
  DATE,
  TIME,
  TIMESTAMP,
  /** Any type that Lantrel knows nothing of; the engine may know it. */
  OTHER;

  /** Whether the values are numbers. */
  public boolean isNumber() {
    return this == INTEGER || this == DECIMAL || this == FLOAT;
  }

  /** Whether the values are days, times of day, or moments. */
  public boolean isOfTime() {
    return this == DATE || this == TIME || this == TIMESTAMP;
  }
}
