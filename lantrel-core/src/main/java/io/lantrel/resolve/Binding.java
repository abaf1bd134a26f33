package io.lantrel.resolve;

import java.util.List;

/** What a column name stands for. */
public sealed interface Binding {

  /** A column of a table use, of this block or of one around it. */
  record ToColumn(UseColumn column) implements Binding {}

  /**
   * The merged column of a FULL JOIN … USING: the first of these that is not NULL (ISO/IEC 9075-2,
   * 7.10, syntax rule on the corresponding join columns).
   */
  record ToMerged(List<UseColumn> columns) implements Binding {
    public ToMerged {
      columns = List.copyOf(columns);
    }
  }

  /** An output column of the same block, by its label. */
  record ToOutput(OutputColumn output) implements Binding {}

  /** Something that needs no table, as CURRENT_DATE, or a column of something that is not known. */
  record Opaque() implements Binding {}

  /** Nothing: a problem was reported for it. */
  record Nothing() implements Binding {}
}
