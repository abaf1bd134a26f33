package io.lantrel.check;

import io.lantrel.engine.NamedRow;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What shows a finding.
 *
 * @param figures counts by what they count, in order
 * @param rows some rows that show it, by name
 * @param facts facts of the schema, or of the rows, as sentences
 */
public record Evidence(Map<String, Long> figures, List<NamedRow> rows, List<String> facts) {

  /** No evidence but the text itself. */
  public static final Evidence NONE = new Evidence(Map.of(), List.of(), List.of());

  public Evidence {
    figures = Collections.unmodifiableMap(new LinkedHashMap<>(figures));
    rows = List.copyOf(rows);
    facts = List.copyOf(facts);
  }

  /** Facts alone. */
  public static Evidence facts(List<String> facts) {
    return new Evidence(Map.of(), List.of(), facts);
  }

  /** The same, and one more fact. */
  public Evidence and(String fact) {
    List<String> more = new ArrayList<>(facts);
    more.add(fact);
    return new Evidence(figures, rows, more);
  }
}
