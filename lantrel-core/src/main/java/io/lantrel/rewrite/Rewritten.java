package io.lantrel.rewrite;

import java.util.List;

/**
 * A query in another form.
 *
 * @param sql the text; the same if it had that form already
 * @param caveats on which data the two do not give the same rows; empty if they always do
 */
public record Rewritten(String sql, List<Caveat> caveats) {
  public Rewritten {
    caveats = List.copyOf(caveats);
  }
}
