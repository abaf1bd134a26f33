package io.lantrel.check;

import io.lantrel.sql.Edit;
import java.util.List;
import java.util.OptionalLong;

/**
 * Edits of the user's text that remove a finding. They were applied, read, resolved and run before
 * they are offered, and the finding was gone with no new one.
 *
 * @param edits the edits, at offsets of the whole text
 * @param sql the statement with the edits made; if it has other errors, with their repairs too
 * @param rowsBefore the rows that the statement gives as it is; empty if it does not run
 * @param rowsAfter the rows that it gives repaired; empty if there are no rows to run it on
 */
public record Repair(
    List<Edit> edits, String sql, OptionalLong rowsBefore, OptionalLong rowsAfter) {
  public Repair {
    edits = List.copyOf(edits);
  }
}
