package io.lantrel.compare.asked;

import io.lantrel.catalog.Constraint;
import io.lantrel.compare.proof.Proof;
import io.lantrel.engine.DatabaseException;
import java.util.List;
import java.util.Optional;

/**
 * A proof that two queries give the same rows, and which of the constraints that it rests on the
 * data at hand break. A live database sees to keys and NOT NULL itself; not every one sees to
 * references.
 *
 * @param proof the proof
 * @param broken the constraints that do not hold here; the proof is none then
 */
record ProofHere(Proof proof, List<Constraint> broken) {

  ProofHere {
    broken = List.copyOf(broken);
  }

  /** Looks for one; what it rests on is asked in one round. */
  static Optional<ProofHere> of(Side.OfQuery first, Side.OfQuery second) {
    try {
      return Proof.of(first.resolution(), second.resolution())
          .map(
              proof ->
                  new ProofHere(proof, first.held().broken(proof.constraints(), first.database())));
    } catch (DatabaseException refused) {
      throw SideFailure.of(first.name(), refused);
    }
  }

  /** For which data the rows are the same, in words. */
  String data() {
    return proof.data();
  }

  /** What does not hold here, in words. */
  String brokenWords() {
    return Constraint.words(broken);
  }
}
