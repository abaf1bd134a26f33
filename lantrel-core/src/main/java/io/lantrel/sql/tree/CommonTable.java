package io.lantrel.sql.tree;

import java.util.List;

/**
 * One member of WITH. Lantrel's probes are written with them; reading them from a user's text is
 * still to come.
 *
 * @param span where it stands
 * @param name what the query is called
 * @param query the query
 */
public record CommonTable(Span span, Identifier name, Query query) implements Node {

  @Override
  public List<Node> children() {
    return List.of(name, query);
  }
}
