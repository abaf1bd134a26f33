package io.lantrel.survey;

import io.lantrel.catalog.Key;
import io.lantrel.catalog.Table;
import io.lantrel.survey.TableFigures.ColumnFigures;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** The keys that a column may refer to: of its own kind, and not the column itself. */
final class Candidates {

  private final Map<Table, TableFigures> figures;
  private final Keys keys;
  private final TableNames names;

  Candidates(Map<Table, TableFigures> figures, Keys keys, TableNames names) {
    this.figures = figures;
    this.keys = keys;
    this.names = names;
  }

  List<Candidate> of(TableFigures from, ColumnFigures column) {
    List<Candidate> candidates = new ArrayList<>();
    boolean isKey = keys.isKey(from.table(), column.column().name());
    boolean unique = from.isUnique(column);
    for (TableFigures to : figures.values()) {
      if (unique && keys.hasMereNumbers(to.table())) {
        continue;
      }
      for (Key key : keys.of(to.table())) {
        if (key.columns().size() != 1 || to.rows() == 0) {
          continue;
        }
        ColumnFigures target = to.column(key.columns().get(0));
        boolean same = to.equals(from) && target.equals(column);
        boolean alike =
            ValueKind.of(target.column().type()) == ValueKind.of(column.column().type());
        if (same || !alike || (isKey && !mayShareKey(from, column, to, target))) {
          continue;
        }
        NameMatch match =
            NameMatch.of(
                names, from.table(), column.column().name(), to.table(), target.column().name());
        candidates.add(new Candidate(from, column, to, target, match));
      }
    }
    return candidates;
  }

  /**
   * Two tables may share their keys, one row beside one row: then the one with the longer name, or
   * with fewer rows, refers to the other, and the names must say so.
   */
  private boolean mayShareKey(
      TableFigures from, ColumnFigures column, TableFigures to, ColumnFigures target) {
    if (from.equals(to)) {
      return false;
    }
    NameParts own = names.words(from.table());
    NameParts other = names.words(to.table());
    NameParts name = names.own(from.table(), column.column().name());
    NameParts keyName = names.own(to.table(), target.column().name());
    boolean extendsIt = own.words().size() > other.words().size() && own.sharesWordWith(other);
    boolean smaller =
        column.values() < target.values()
            || (column.values() == target.values()
                && own.joined().length() > other.joined().length());
    if (name.isSame(keyName)) {
      return smaller && (name.isCommon() ? extendsIt && !column.isDense() : true);
    }
    NameParts stem = name.withoutKeyWord();
    return stem.isSame(other) && !stem.isSame(own);
  }
}
