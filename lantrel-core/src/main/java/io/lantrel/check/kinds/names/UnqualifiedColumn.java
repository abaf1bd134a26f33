package io.lantrel.check.kinds.names;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.Binding;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.List;

/** A column without its table where others have theirs: a new column elsewhere breaks the query. */
public final class UnqualifiedColumn implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (block.uses().size() < 2) {
      return List.of();
    }
    List<ColumnName> names =
        subject.nodes(ColumnName.class).stream().filter(each -> !each.span().isNowhere()).toList();
    List<ColumnName> bare = names.stream().filter(each -> isBare(each, block)).toList();
    long qualified = names.stream().filter(each -> !each.qualifier().isEmpty()).count();
    if (bare.isEmpty() || qualified <= bare.size()) {
      return List.of();
    }
    ColumnName first = bare.get(0);
    String right = block.column(first).orElseThrow().written();
    List<Edit> all =
        bare.stream()
            .map(each -> Edit.insert(each.span().start(), qualifier(each, block)))
            .toList();
    return List.of(
        Suspicion.certain(
            Kind.UNQUALIFIED_COLUMN,
            first.span(),
            Conclusion.note(
                subject.text(first)
                    + " is "
                    + right
                    + " as long as no other table here has such a column. Write "
                    + right
                    + ".",
                List.of("it stands beside columns that name their table"),
                List.of(all))));
  }

  private static String qualifier(ColumnName name, QueryBlock block) {
    return block.column(name).orElseThrow().use().written() + ".";
  }

  /** The column of a function goes by its alias: behind it, it would stand twice. */
  private static boolean isOfFunction(UseColumn column) {
    return column.use().item() instanceof FromItem.TableFunction
        && column.name().equals(column.use().name());
  }

  private static boolean isBare(ColumnName name, QueryBlock block) {
    return name.qualifier().isEmpty()
        && block.binding(name) instanceof Binding.ToColumn bound
        && block.isOwn(bound.column())
        && bound.column().use().isNamed()
        && !isOfFunction(bound.column())
        && block.conjuncts().stream().noneMatch(each -> each.span().equals(name.span()));
  }
}
