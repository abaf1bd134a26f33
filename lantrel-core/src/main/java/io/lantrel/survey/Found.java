package io.lantrel.survey;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Reference;
import io.lantrel.engine.Rows;
import java.util.ArrayList;
import java.util.List;

/**
 * A reference that no schema declares.
 *
 * @param reference with how sure it is
 * @param figures what {@link TableQuestions#figures(Reference)} was answered
 * @param score by which the most convincing comes first
 * @param reasons what speaks for it, and what else would fit
 */
record Found(Reference reference, Rows figures, double score, List<String> reasons) {

  Found {
    reasons = List.copyOf(reasons);
  }

  /**
   * @param more what adds to its score
   * @param further reasons besides what the names and the values say
   */
  static Found of(Candidate candidate, Basis basis, Rows rows, double more, List<String> further) {
    List<String> reasons = new ArrayList<>();
    if (candidate.match() != NameMatch.NONE) {
      reasons.add(candidate.match().words());
    }
    reasons.add(ValueLookup.words(rows));
    reasons.addAll(further);
    double names = 100 - 20.0 * candidate.match().ordinal();
    double sure = basis == Basis.OBSERVED ? 100 : 0;
    double many = Math.log10(1.0 + candidate.column().values());
    return new Found(candidate.reference(basis), rows, sure + names + more * 10 + many, reasons);
  }

  /** The same, no more than possible. */
  Found possible() {
    Reference possible =
        new Reference(
            reference.from(),
            reference.fromColumns(),
            reference.to(),
            reference.toColumns(),
            Basis.POSSIBLE);
    return new Found(possible, figures, score - 50, reasons);
  }
}
