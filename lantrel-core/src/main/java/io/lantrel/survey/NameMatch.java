package io.lantrel.survey;

import io.lantrel.catalog.Table;

/** How far a column's name says which table it refers to, the most telling first. */
enum NameMatch {
  /** It is named after the table, or after its key: {@code station_id}, {@code dept_no}. */
  TABLE("named after the table"),
  /** It ends with the table's name: {@code home_station_id}. */
  ROLE_AND_TABLE("named after the table, with a role"),
  /** It has a word of the table's name: {@code bank} for a table {@code bank_kind}. */
  PART("named after a part of the table's name"),
  /** It says that it refers, and not to what: {@code keeper_id}, {@code flows_into}. */
  RELATION("named like a reference"),
  /** It says nothing of the kind. */
  NONE("");

  private final String words;

  NameMatch(String words) {
    this.words = words;
  }

  /** As a reason to believe in a reference. */
  String words() {
    return words;
  }

  /** How a column is named, seen from a key of one column. */
  static NameMatch of(Table source, String column, Table target, String key) {
    NameParts name = NameParts.of(column);
    NameParts stem = name.withoutKeyWord();
    NameParts keyName = NameParts.of(key);
    NameParts table = NameParts.ofTable(target.name());
    boolean namedAlike = !keyName.isCommon() && name.isSame(keyName);
    if (namedAlike || stem.isSame(table) || name.isSame(table.and(keyName))) {
      return TABLE;
    }
    if (!stem.isEmpty() && NameParts.ofTable(source.name()).and(stem).isSame(table)) {
      return TABLE;
    }
    if (stem.endsWith(table) || (!keyName.isCommon() && name.endsWith(keyName))) {
      return ROLE_AND_TABLE;
    }
    if (!stem.isEmpty() && stem.sharesWordWith(table)) {
      return PART;
    }
    return name.endsWithId() || name.namesARelation() ? RELATION : NONE;
  }
}
