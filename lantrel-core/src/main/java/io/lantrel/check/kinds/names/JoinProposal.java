package io.lantrel.check.kinds.names;

import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Edit;
import java.util.ArrayList;
import java.util.List;

/**
 * Joining a table that a query names and does not join.
 *
 * @param table the table
 * @param condition how it would be joined
 * @param edit the edit that joins it
 */
record JoinProposal(Table table, String condition, Edit edit) {

  /** Every way to reach a table over one reference from a table use of the block. */
  static List<JoinProposal> to(Table table, Subject subject) {
    List<JoinProposal> proposals = new ArrayList<>();
    for (TableUse use : subject.block().uses()) {
      for (Reference reference : subject.catalog().references()) {
        boolean leads =
            use.table().filter(reference.from()::equals).isPresent()
                && reference.to().equals(table)
                && !reference.isSelfReference();
        if (leads) {
          proposals.add(proposal(table, use, reference, subject));
        }
      }
    }
    return proposals;
  }

  private static JoinProposal proposal(
      Table table, TableUse use, Reference reference, Subject subject) {
    List<String> equalities = new ArrayList<>();
    Dialect dialect = subject.catalog().dialect();
    boolean optional = false;
    for (int i = 0; i < reference.fromColumns().size(); i++) {
      String from = reference.fromColumns().get(i);
      equalities.add(
          use.written()
              + "."
              + dialect.write(from)
              + " = "
              + dialect.write(table.name())
              + "."
              + dialect.write(reference.toColumns().get(i)));
      optional |= use.column(from).filter(column -> column.nullable()).isPresent();
    }
    String condition = String.join(" AND ", equalities);
    return new JoinProposal(
        table, condition, subject.edits().addJoin(use, table.name(), condition, optional));
  }
}
