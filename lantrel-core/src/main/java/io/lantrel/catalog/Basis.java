package io.lantrel.catalog;

/** How a reference is known. */
public enum Basis {
  /** The schema says so. */
  DECLARED,
  /** The rows and the names show it, though the schema does not say so. */
  OBSERVED,
  /** The values would fit, and little else speaks for it. */
  POSSIBLE
}
