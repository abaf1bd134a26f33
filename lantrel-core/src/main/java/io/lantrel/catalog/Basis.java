package io.lantrel.catalog;

/** How a reference is known. */
public enum Basis {
  /** The schema says so. */
  DECLARED
}
