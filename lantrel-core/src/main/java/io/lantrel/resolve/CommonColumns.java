package io.lantrel.resolve;

import io.lantrel.catalog.ColumnType;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.List;

/** The columns of a member of WITH under the names that it gives them, and those that it adds. */
final class CommonColumns {

  private CommonColumns() {}

  static ResolvedQuery renamed(ResolvedQuery result, CommonTable member, Dialect dialect) {
    List<OutputColumn> outputs = new ArrayList<>();
    for (OutputColumn output : result.outputs()) {
      String name =
          output.position() < member.columns().size()
              ? dialect.stored(member.columns().get(output.position()))
              : output.name();
      outputs.add(new OutputColumn(output.position(), name, output.value(), output.type()));
    }
    int own = outputs.size();
    for (Identifier added : member.added()) {
      outputs.add(
          new OutputColumn(
              outputs.size(),
              dialect.stored(added),
              new Value.ColumnName(added.span(), List.of(), added),
              ColumnType.UNKNOWN));
    }
    return new ResolvedQuery(
        result.query(),
        result.parts(),
        outputs,
        result.isComplete(),
        false,
        position -> position >= own || result.isNullable(result.outputs().get(position)),
        member.added().isEmpty() ? result::keys : List::of);
  }
}
