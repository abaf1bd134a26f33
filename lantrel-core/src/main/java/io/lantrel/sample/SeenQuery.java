package io.lantrel.sample;

import java.util.LinkedHashSet;
import java.util.Optional;
import java.util.Set;

/**
 * What a query shows on some rows, as far as a sample can show the same.
 *
 * @param line where it stands, from 1
 * @param findings its warnings and errors with their places, as {@code cross-product at 1:8}
 * @param happened what its account tells to happen to rows, as {@code rows are dropped at WHERE};
 *     empty if it has none
 */
public record SeenQuery(int line, Set<String> findings, Optional<Set<String>> happened) {
  public SeenQuery {
    findings = new LinkedHashSet<>(findings);
    happened = happened.map(LinkedHashSet::new);
  }
}
