package io.lantrel.compare.asked;

import io.lantrel.compare.proof.Constraint;
import io.lantrel.compare.proof.Proof;
import io.lantrel.engine.Database;
import io.lantrel.engine.DatabaseException;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.BrokenConstraints;
import io.lantrel.probe.Question;
import io.lantrel.sql.Dialect;
import io.lantrel.words.Words;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
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
          .map(proof -> new ProofHere(proof, broken(proof.constraints(), first.database())));
    } catch (DatabaseException refused) {
      throw SideFailure.of(first.name(), refused);
    }
  }

  private static List<Constraint> broken(List<Constraint> constraints, Database database) {
    Map<Constraint, Question<Boolean>> questions = new LinkedHashMap<>();
    constraints.stream()
        .filter(each -> !database.isLive() || each.kind() == Constraint.Kind.REFERENCE)
        .forEach(each -> questions.put(each, question(each, database.dialect())));
    if (questions.isEmpty()) {
      return List.of();
    }
    Answers answers = new Asker(database).ask(List.copyOf(questions.values()));
    return questions.entrySet().stream()
        .filter(each -> answers.to(each.getValue()))
        .map(Map.Entry::getKey)
        .toList();
  }

  private static Question<Boolean> question(Constraint constraint, Dialect dialect) {
    return switch (constraint.kind()) {
      case KEY -> BrokenConstraints.key(constraint.table(), constraint.columns(), dialect);
      case NOT_NULL ->
          BrokenConstraints.notNull(constraint.table(), constraint.columns().get(0), dialect);
      case REFERENCE ->
          BrokenConstraints.reference(constraint.ifReference().orElseThrow(), dialect);
    };
  }

  /** For which data the rows are the same, in words. */
  String data() {
    return proof.constraints().isEmpty()
        ? "any data"
        : "any data in which " + words(proof.constraints());
  }

  /** What does not hold here, in words. */
  String brokenWords() {
    return words(broken);
  }

  private static String words(List<Constraint> constraints) {
    return Words.list(constraints.stream().map(Constraint::words).toList());
  }
}
