package io.lantrel.probe;

/** Why a row has no partner at a join step. */
public enum Reason {
  /** The row that should refer is itself missing: an outer join filled it in. */
  ALREADY_FILLED,
  /** A column of the condition is NULL. */
  EMPTY_REFERENCE,
  /** A row with these values is there, but it does not meet the rest of the condition. */
  FURTHER_CONDITION,
  /** No row has these values. */
  NO_PARTNER
}
