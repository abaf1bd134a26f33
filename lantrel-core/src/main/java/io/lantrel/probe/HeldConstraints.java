package io.lantrel.probe;

import io.lantrel.catalog.Constraint;
import io.lantrel.engine.Database;
import io.lantrel.sql.Dialect;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/**
 * Which constraints the rows of a database keep. A live database sees to keys and NOT NULL itself;
 * not every one sees to references. Sample data stay as they are, so that each constraint is looked
 * at once.
 */
public final class HeldConstraints {

  private final Map<Constraint, Boolean> known = new ConcurrentHashMap<>();
  private final Set<Constraint> given;

  /** Those of a schema or a database alone. */
  public HeldConstraints() {
    this(Set.of());
  }

  /**
   * @param given those that nothing but people see to
   */
  public HeldConstraints(Set<Constraint> given) {
    this.given = Set.copyOf(given);
  }

  /**
   * Those that do not hold. What is not known yet is asked in one round.
   *
   * @param database always the same one
   * @throws io.lantrel.engine.DatabaseException if the database gives no answer
   */
  public List<Constraint> broken(List<Constraint> constraints, Database database) {
    Map<Constraint, Question<Boolean>> questions = new LinkedHashMap<>();
    constraints.stream()
        .filter(each -> !database.isLive() || isUnguarded(each))
        .filter(each -> !known.containsKey(each))
        .forEach(each -> questions.put(each, question(each, database.dialect())));
    Map<Constraint, Boolean> broken = new LinkedHashMap<>(known);
    if (!questions.isEmpty()) {
      Answers answers = new Asker(database).ask(List.copyOf(questions.values()));
      questions.forEach((each, question) -> broken.put(each, answers.to(question)));
    }
    if (!database.isLive()) {
      known.putAll(broken);
    }
    return constraints.stream().filter(each -> broken.getOrDefault(each, false)).toList();
  }

  /** Those that nothing but people see to. */
  public Set<Constraint> given() {
    return given;
  }

  private boolean isUnguarded(Constraint constraint) {
    return constraint.kind() == Constraint.Kind.REFERENCE || given.contains(constraint);
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
}
