package io.lantrel.rewrite.forms;

import io.lantrel.edit.QueryEdits;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.SelectItem;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Other names for the columns that a query shows. */
final class Labels {

  private Labels() {}

  /**
   * Gives the items of SELECT other names.
   *
   * @param names one for each item of SELECT, as it is to be written; empty to leave it
   * @return empty if {@code *} stands for several, or there are not as many items as names
   */
  static Optional<List<Edit>> given(QueryBlock block, List<String> names, QueryEdits words) {
    List<SelectItem> items = block.select().items();
    if (items.size() != names.size() || NameForms.hasStar(block)) {
      return Optional.empty();
    }
    List<Edit> edits = new ArrayList<>();
    for (int i = 0; i < items.size(); i++) {
      String name = names.get(i);
      if (!name.isEmpty() && items.get(i) instanceof SelectItem.Output output) {
        edits.add(
            output.label() != null
                ? new Edit(output.label().span(), name)
                : Edit.insert(output.span().end(), words.beforeLabel() + name));
      }
    }
    return Optional.of(edits);
  }
}
