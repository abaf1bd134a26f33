package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.SetOperations;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.QueryBody.SetOperation;
import io.lantrel.sql.tree.QueryBody.SetOperator;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * EXCEPT or INTERSECT of keys of two tables: they compare numbers that just happen to be the same.
 * UNION compares nothing that is meant to meet.
 */
public final class UnlikeParts implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (ResolvedQuery query : SetOperations.of(subject)) {
      query
          .query()
          .body()
          .preorder()
          .filter(SetOperation.class::isInstance)
          .map(SetOperation.class::cast)
          .filter(each -> each.operator() != SetOperator.UNION)
          .forEach(each -> unlike(each, query.parts(), subject).ifPresent(suspicions::add));
    }
    return suspicions;
  }

  private static Optional<Suspicion> unlike(
      SetOperation operation, List<QueryBlock> parts, Subject subject) {
    List<QueryBlock> first = blocks(operation.parts().get(0), parts);
    for (QueryBody part : operation.parts().subList(1, operation.parts().size())) {
      List<QueryBlock> other = blocks(part, parts);
      int width =
          Math.min(
              first.stream().mapToInt(each -> each.outputs().size()).min().orElse(0),
              other.stream().mapToInt(each -> each.outputs().size()).min().orElse(0));
      for (int place = 0; place < width; place++) {
        Optional<Suspicion> found =
            unlike(shown(first, place), shown(other, place), operation, subject);
        if (found.isPresent()) {
          return found;
        }
      }
    }
    return Optional.empty();
  }

  private static List<QueryBlock> blocks(QueryBody part, List<QueryBlock> parts) {
    List<Node> selects = part.preorder().toList();
    return parts.stream()
        .filter(each -> selects.stream().anyMatch(select -> select == each.select()))
        .toList();
  }

  /** A column of a part, and the column of a table that it is. */
  private record Shown(OutputColumn output, QueryBlock block, Optional<UseColumn> column) {}

  private static List<Shown> shown(List<QueryBlock> blocks, int place) {
    return blocks.stream()
        .map(
            block -> {
              OutputColumn output = block.outputs().get(place);
              return new Shown(output, block, block.meant(output.value()).flatMap(BaseColumn::of));
            })
        .toList();
  }

  private static Optional<Suspicion> unlike(
      List<Shown> first, List<Shown> other, SetOperation operation, Subject subject) {
    Catalog catalog = subject.catalog();
    boolean unlike =
        first.stream()
            .allMatch(
                one ->
                    one.column().isPresent()
                        && other.stream()
                            .allMatch(
                                two ->
                                    two.column()
                                        .filter(it -> areUnlike(one.column().get(), it, catalog))
                                        .isPresent()));
    return unlike && !first.isEmpty() && !other.isEmpty()
        ? Optional.of(suspicion(first.get(0), other.get(0), operation, subject))
        : Optional.empty();
  }

  private static boolean areUnlike(UseColumn one, UseColumn two, Catalog catalog) {
    Set<String> rootsOfOne = roots(one, catalog);
    Set<String> rootsOfTwo = roots(two, catalog);
    boolean sameName =
        one.name().equalsIgnoreCase(two.name()) && !NotAReference.isCalledAsAny(one.name());
    return !rootsOfOne.isEmpty()
        && !rootsOfTwo.isEmpty()
        && rootsOfOne.stream().noneMatch(rootsOfTwo::contains)
        && !sameName
        && References.way(table(one), table(two), catalog).isPresent();
  }

  /** The keys whose values a column has. */
  private static Set<String> roots(UseColumn column, Catalog catalog) {
    Set<String> roots = new LinkedHashSet<>(References.targets(column, catalog));
    if (References.isKey(column)) {
      roots.add(table(column).name() + "." + column.tableColumn());
    }
    return roots;
  }

  private static Table table(UseColumn column) {
    return column.use().table().orElseThrow();
  }

  private static Suspicion suspicion(
      Shown first, Shown other, SetOperation operation, Subject subject) {
    UseColumn one = first.column().orElseThrow();
    UseColumn two = other.column().orElseThrow();
    List<UseColumn> right = meant(one, two, subject.catalog());
    List<Reference> way =
        References.way(table(one), table(two), subject.catalog()).orElse(List.of());
    String advice =
        right.size() == 1
            ? "Show " + right.get(0).written() + " there."
            : "They belong together by "
                + Words.list(way.stream().map(Reference::words).toList())
                + ".";
    boolean written =
        right.size() == 1
            && !other.output().value().span().isNowhere()
            && other.block().column(other.output().value()).filter(two::equals).isPresent();
    return Suspicion.certain(
        Kind.NOT_A_REFERENCE,
        other.output().value().span().isNowhere()
            ? operation.span()
            : other.output().value().span(),
        Conclusion.warning(
            operation.operator()
                + " compares "
                + one.words()
                + " with "
                + two.words()
                + ", and these are not the same: "
                + Words.one(one.use().rowWord())
                + " meets "
                + Words.one(two.use().rowWord())
                + " that just happens to have the same value. "
                + advice,
            way.stream().map(each -> "the schema has " + each.words()).toList(),
            written
                ? List.of(List.of(new Edit(other.output().value().span(), right.get(0).written())))
                : List.of()));
  }

  /** The columns beside one that refer to what another is a key of. */
  private static List<UseColumn> meant(UseColumn key, UseColumn beside, Catalog catalog) {
    Set<String> roots = roots(key, catalog);
    return beside.use().columns().stream()
        .filter(each -> roots.stream().anyMatch(roots(each, catalog)::contains))
        .toList();
  }
}
