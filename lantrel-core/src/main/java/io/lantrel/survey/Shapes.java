package io.lantrel.survey;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.survey.Survey.Shape;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** What a table is among the others, by the references that can be relied on. */
final class Shapes {

  /** A look-up table has a key and at most so many columns more. */
  private static final int FEW = 2;

  private Shapes() {}

  static Set<Shape> of(Table table, TableFigures figures, List<Key> keys, Catalog known) {
    List<Reference> out =
        known.references().stream().filter(each -> each.from().equals(table)).toList();
    List<Reference> others = out.stream().filter(each -> !each.isSelfReference()).toList();
    boolean referredTo =
        known.references().stream()
            .anyMatch(each -> !each.isSelfReference() && each.to().equals(table));
    Set<Shape> shapes = EnumSet.noneOf(Shape.class);
    if (out.size() > others.size()) {
      shapes.add(Shape.HIERARCHY);
    }
    if (others.size() > 1 && isJunction(table, keys, others, referredTo)) {
      shapes.add(Shape.JUNCTION);
    }
    if (out.isEmpty() && referredTo && table.columns().size() <= keyWidth(keys) + FEW) {
      shapes.add(Shape.LOOK_UP);
    }
    if (others.isEmpty() && !referredTo) {
      shapes.add(Shape.ISLAND);
    }
    return shapes;
  }

  private static int keyWidth(List<Key> keys) {
    return keys.isEmpty() ? 0 : keys.get(0).columns().size();
  }

  /** Some key holds two references; or there is nothing else worth mentioning. */
  private static boolean isJunction(
      Table table, List<Key> keys, List<Reference> references, boolean referredTo) {
    boolean inKey =
        keys.stream()
            .anyMatch(
                key ->
                    references.stream()
                            .filter(each -> key.columns().containsAll(each.fromColumns()))
                            .count()
                        > 1);
    Set<String> told = new HashSet<>();
    references.forEach(each -> told.addAll(each.fromColumns()));
    keys.stream().limit(1).forEach(each -> told.addAll(each.columns()));
    List<String> rest =
        table.columns().stream().map(Column::name).filter(each -> !told.contains(each)).toList();
    return inKey || (!referredTo && rest.size() <= 1);
  }
}
