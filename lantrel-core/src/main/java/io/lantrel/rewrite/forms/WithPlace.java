package io.lantrel.rewrite.forms;

import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Where a further member of WITH goes, so that all that its query names can be named there (ISO/IEC
 * 9075-2, 7.17, scope of a query name) and it can be named where it stood.
 *
 * @param holder the query that has the WITH, or gets one
 * @param before the member that it must stand before; null to stand behind all
 */
record WithPlace(Query holder, @Nullable CommonTable before) {

  /** For something that stands at a place. */
  static WithPlace of(Query root, Span wanted) {
    List<Query> around =
        root.preorder()
            .filter(Query.class::isInstance)
            .map(Query.class::cast)
            .filter(each -> !each.with().isEmpty() && each.span().contains(wanted))
            .toList();
    if (around.isEmpty()) {
      return new WithPlace(root, null);
    }
    // The innermost comes last.
    Query holder = around.get(around.size() - 1);
    Optional<CommonTable> member =
        holder.with().stream().filter(each -> each.span().contains(wanted)).findFirst();
    return new WithPlace(holder, member.orElse(null));
  }

  /** Adds a member. */
  Edit add(String member, String with) {
    if (before != null) {
      return Edit.insert(before.span().start(), member + ",\n");
    }
    if (holder.with().isEmpty()) {
      return Edit.insert(holder.span().start(), with + " " + member + "\n");
    }
    CommonTable last = holder.with().get(holder.with().size() - 1);
    return Edit.insert(last.span().end(), ",\n" + member);
  }
}
