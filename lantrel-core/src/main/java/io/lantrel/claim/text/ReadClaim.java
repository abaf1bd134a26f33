package io.lantrel.claim.text;

import io.lantrel.sql.tree.Identifier;
import java.util.List;
import java.util.Optional;

/**
 * A claim that was read.
 *
 * @param form how it is written
 * @param names the names in its slots, in order; each in parts, as {@code s.name} has two
 * @param descending for each name whether {@code desc} stands behind it
 * @param number the number in it; 0 if there is none
 * @param rest the file or the values that it ends with; empty if there are none
 * @param condition what stands behind WHERE
 */
public record ReadClaim(
    Form form,
    List<List<Identifier>> names,
    List<Boolean> descending,
    long number,
    String rest,
    Optional<String> condition) {
  public ReadClaim {
    names = List.copyOf(names);
    descending = List.copyOf(descending);
  }

  /** The name in its last slot. */
  public List<Identifier> last() {
    return names.get(names.size() - 1);
  }
}
