package io.lantrel.report;

import io.lantrel.NoLedgerException;
import io.lantrel.Study;
import io.lantrel.claim.CheckedClaim;
import io.lantrel.draft.Draft;
import io.lantrel.ledger.Ledger;
import io.lantrel.rows.ShownRows;
import java.util.List;
import java.util.Optional;

/**
 * A draft, and what the database told of it; to write it down asks nothing more.
 *
 * @param draft the draft
 * @param study its query, inspected
 * @param ledger what each step does to the rows; empty if there are no rows, or there is none
 * @param rows the first rows of its result; empty if it was not run
 * @param promises what became of its claims; none if it was not run
 */
public record StudiedDraft(
    Draft draft,
    Study study,
    Optional<Ledger> ledger,
    Optional<ShownRows> rows,
    List<CheckedClaim> promises) {

  public StudiedDraft {
    promises = List.copyOf(promises);
  }

  /**
   * Has the database look at a draft.
   *
   * @param rows how many rows of the result are wanted
   * @throws io.lantrel.engine.DatabaseException if it fails
   */
  public static StudiedDraft of(Draft draft, Study study, int rows) {
    boolean runs = study.inspection().refusal().isEmpty() && study.hasRows();
    return new StudiedDraft(
        draft,
        study,
        runs ? ledger(study) : Optional.empty(),
        runs ? Optional.of(study.rows(rows)) : Optional.empty(),
        runs && !draft.claims().isEmpty()
            ? study.verify(draft.claims().toArray(String[]::new)).claims()
            : List.of());
  }

  private static Optional<Ledger> ledger(Study study) {
    try {
      return Optional.of(study.ledger());
    } catch (NoLedgerException none) {
      return Optional.empty();
    }
  }
}
