package io.lantrel.check;

import java.util.Locale;

/** Which mistake a finding is. The names are stable: files and programs rely on them. */
public enum Kind {
  SYNTAX,
  NOT_A_QUERY,
  UNKNOWN_TABLE,
  UNKNOWN_COLUMN,
  AMBIGUOUS_COLUMN,
  HIDDEN_BY_ALIAS,
  REPEATED_ALIAS,
  NOT_VISIBLE_YET,
  UNGROUPED_COLUMN,
  AGGREGATE_IN_WHERE,
  CROSS_PRODUCT,
  NOT_A_REFERENCE,
  ROWS_WITHOUT_PARTNER,
  OUTER_JOIN_CANCELLED,
  REPEATED_IN_TOTAL;

  /** The name in output and files, as {@code cross-product}. */
  public String id() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }
}
