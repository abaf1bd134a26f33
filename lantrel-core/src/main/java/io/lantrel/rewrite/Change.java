package io.lantrel.rewrite;

import io.lantrel.sql.Edit;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One change of a text.
 *
 * @param edits what is changed; empty if there is nothing to change
 * @param doubt on which data the two would not give the same rows; null if they always do
 */
record Change(List<Edit> edits, @Nullable Doubt doubt) {

  static final Change NONE = new Change(List.of(), null);

  Change {
    edits = List.copyOf(edits);
  }

  static Change of(List<Edit> edits) {
    return new Change(edits, null);
  }

  boolean isNone() {
    return edits.isEmpty();
  }
}
