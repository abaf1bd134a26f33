package io.lantrel.probe;

import io.lantrel.catalog.Constraint;
import io.lantrel.catalog.Reference;
import io.lantrel.engine.Database;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * By which references every row finds what it refers to. Each is looked at once, also where several
 * drafts of one wish go along it; so this is for one wish, since the rows of a live database
 * change.
 */
public final class KeptReferences implements UnaryOperator<List<Reference>> {

  private final HeldConstraints held;
  private final @Nullable Database database;
  private final Map<Reference, Boolean> known = new HashMap<>();

  /**
   * @param database none where there are no rows, so that nothing can be broken
   */
  public KeptReferences(HeldConstraints held, @Nullable Database database) {
    this.held = held;
    this.database = database;
  }

  /**
   * Those that no row breaks. What is not known yet is asked in one round.
   *
   * @throws io.lantrel.engine.DatabaseException if the database gives no answer
   */
  @Override
  public List<Reference> apply(List<Reference> references) {
    Database rows = database;
    if (rows == null) {
      return references;
    }
    Map<Reference, List<Constraint>> promises = new LinkedHashMap<>();
    references.stream()
        .filter(each -> !known.containsKey(each))
        .forEach(each -> promises.put(each, promised(each)));
    if (!promises.isEmpty()) {
      List<Constraint> broken =
          held.broken(promises.values().stream().flatMap(List::stream).distinct().toList(), rows);
      promises.forEach((each, all) -> known.put(each, all.stream().noneMatch(broken::contains)));
    }
    return references.stream().filter(each -> known.getOrDefault(each, false)).toList();
  }

  private static List<Constraint> promised(Reference reference) {
    Stream<Constraint> filled =
        reference.fromColumns().stream()
            .map(column -> Constraint.notNull(reference.from(), column));
    return Stream.concat(Stream.of(Constraint.of(reference)), filled).toList();
  }
}
