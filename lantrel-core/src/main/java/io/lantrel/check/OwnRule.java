package io.lantrel.check;

import io.lantrel.catalog.Catalog;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import java.util.List;

/**
 * A rule that a project has for its queries, beside the kinds that Lantrel knows: what breaks it is
 * a finding of the kind {@link Kind#OWN_RULE}.
 *
 * <pre>{@code
 * OwnRule noStar =
 *     (source, query, catalog) ->
 *         query
 *             .preorder()
 *             .filter(SelectItem.AllColumns.class::isInstance)
 *             .map(star -> OwnRule.breach(star.span(), "Name the columns: reports break by new ones."))
 *             .toList();
 * lantrel.judgingBy(CheckRules.USUAL.and(noStar));
 * }</pre>
 */
@FunctionalInterface
public interface OwnRule {

  /**
   * What of a query breaks the rule, in the order of the text; empty if nothing does. It is asked
   * for queries whose names all mean something, and again for each repair that is tried, so it must
   * not remember anything.
   *
   * @param source the text that all spans are places of
   * @param query the query, with the values of its parameters
   * @param catalog the tables that it can use
   */
  List<Breach> breaches(SourceText source, Query query, Catalog catalog);

  /**
   * What breaks a rule.
   *
   * @param place where; the characters to change
   * @param severity how bad it is
   * @param message what is wrong and what to do, in a sentence
   * @param repair changes of the text that mend it, which are tried before they are offered; empty
   *     if there are none
   */
  record Breach(Span place, Severity severity, String message, List<Edit> repair) {
    public Breach {
      repair = List.copyOf(repair);
    }
  }

  /** A breach that is a warning and comes without a repair. */
  static Breach breach(Span place, String message) {
    return new Breach(place, Severity.WARNING, message, List.of());
  }
}
