package io.lantrel.check;

import io.lantrel.catalog.Table;
import java.util.List;
import java.util.Optional;

/**
 * What was found about one statement.
 *
 * @param understood whether Lantrel could read it; if not, nothing was checked
 * @param findings in the order of the text
 * @param refusal why it is not run, although Lantrel finds no error: the database would not, or it
 *     uses what is not known to only compute; empty if it is
 * @param unchecked what was not checked although it should have been, and why
 * @param remarks what the rows here cannot show, since there are none; and exceptions that except
 *     nothing
 * @param unrelated the tables, if it joins some and no reference is known of any: that one is
 *     joined by a wrong column cannot be seen then
 * @param excepted what was found too, and a comment beside the query accepts
 */
public record Inspection(
    boolean understood,
    List<Finding> findings,
    Optional<String> refusal,
    List<String> unchecked,
    List<String> remarks,
    List<Table> unrelated,
    List<Excepted> excepted) {
  public Inspection {
    excepted = List.copyOf(excepted);
    findings = List.copyOf(findings);
    unchecked = List.copyOf(unchecked);
    remarks = List.copyOf(remarks);
    unrelated = List.copyOf(unrelated);
  }

  /**
   * Whether all was looked at that can be. If not, no findings does not mean no faults: it was not
   * read, was refused, failed while it ran, or took too long.
   */
  public boolean isComplete() {
    return understood && refusal.isEmpty() && unchecked.isEmpty();
  }
}
