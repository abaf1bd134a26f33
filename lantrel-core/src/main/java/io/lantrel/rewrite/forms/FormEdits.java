package io.lantrel.rewrite.forms;

import io.lantrel.rewrite.Caveat;
import io.lantrel.sql.Edit;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One change of a text.
 *
 * @param edits what is changed; empty if there is nothing to change
 * @param caveat on which data the two would not give the same rows, or why something stays; null if
 *     there is nothing to say
 * @param belongs whether what stays is of the form as well, since it belongs where it is
 */
record FormEdits(List<Edit> edits, @Nullable Caveat caveat, boolean belongs) {

  static final FormEdits NONE = new FormEdits(List.of(), null);

  FormEdits(List<Edit> edits, @Nullable Caveat caveat) {
    this(edits, caveat, false);
  }

  FormEdits {
    edits = List.copyOf(edits);
  }

  static FormEdits of(List<Edit> edits) {
    return new FormEdits(edits, null);
  }

  /** Something of the old form stays, for a reason. */
  static FormEdits stays(String reason) {
    return new FormEdits(List.of(), new Caveat(reason, "", ""));
  }

  /** Something looks like the old form and is none: it belongs where it is, for a reason. */
  static FormEdits belongs(String reason) {
    return new FormEdits(List.of(), new Caveat(reason, "", ""), true);
  }

  boolean isNone() {
    return edits.isEmpty();
  }
}
