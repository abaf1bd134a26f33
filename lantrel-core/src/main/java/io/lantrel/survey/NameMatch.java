package io.lantrel.survey;

import io.lantrel.catalog.Table;
import java.util.ArrayList;
import java.util.List;

/** How far a column's name says which table it refers to, the most telling first. */
enum NameMatch {
  /** It is named after the table, or after its key: {@code station_id}, {@code dept_no}. */
  TABLE("named after the table"),
  /** It names the table and a role: {@code home_station_id}. */
  ROLE_AND_TABLE("named after the table, with a role"),
  /** It has a word that is short for the table: {@code stn_id}. */
  ABBREVIATION("short for the table's name"),
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
  static NameMatch of(TableNames names, Table source, String column, Table target, String key) {
    NameParts name = names.column(column);
    NameParts own = names.own(source, column);
    NameMatch whole = of(names, source, name, target, key);
    boolean marked = !name.equals(own);
    boolean isMark = marked && !own.isEmpty() && own.isSame(names.shortName(target));
    NameMatch unmarked = isMark ? TABLE : marked ? of(names, source, own, target, key) : whole;
    // A column that is marked as its table's own names another one behind that mark only.
    boolean vague = whole.compareTo(ROLE_AND_TABLE) > 0;
    return vague || unmarked.compareTo(whole) < 0 ? unmarked : whole;
  }

  private static NameMatch of(
      TableNames names, Table source, NameParts name, Table target, String key) {
    NameParts stem = name.withoutKeyWord();
    NameParts table = names.words(target);
    NameParts mark = names.shortName(target);
    List<NameParts> keys = keyNames(names, target, key);
    if (stem.isSame(table) || (!mark.isEmpty() && stem.isSame(mark) && name.saysKey())) {
      return TABLE;
    }
    if (keys.stream().anyMatch(name::isSame)) {
      return TABLE;
    }
    if (!stem.isEmpty() && names.words(source).and(stem).isSame(table)) {
      return TABLE;
    }
    boolean role = stem.endsWith(table) || (name.saysKey() && stem.endsWith(mark));
    boolean behind = name.keyWordIsInFront() && (stem.beginsWith(table) || stem.beginsWith(mark));
    if (role || behind || keys.stream().anyMatch(name::endsWith)) {
      return ROLE_AND_TABLE;
    }
    boolean ofItsOwn = stem.isSame(names.words(source));
    if (!ofItsOwn && stem.isShortFor(table).isPresent()) {
      return ABBREVIATION;
    }
    if (!ofItsOwn && stem.sharesWordWith(table)) {
      return PART;
    }
    return name.endsWithId() || name.namesARelation() ? RELATION : NONE;
  }

  /** By what a key of one column may be called elsewhere. */
  private static List<NameParts> keyNames(TableNames names, Table target, String key) {
    NameParts whole = names.column(key);
    NameParts own = names.own(target, key);
    boolean marked = !whole.equals(own);
    NameParts withTable = names.words(target).and(own);
    List<NameParts> called = new ArrayList<>(List.of(withTable));
    if (marked || !whole.isCommon()) {
      called.add(whole);
    }
    if (marked && !own.isCommon()) {
      called.add(own);
    }
    return called;
  }
}
