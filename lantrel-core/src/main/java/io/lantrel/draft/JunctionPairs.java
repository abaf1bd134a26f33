package io.lantrel.draft;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * How two rows of a table meet over a third one that refers to them and to where they meet, as two
 * species meet at a station over sightings.
 *
 * @param of the reference to the rows of the pair
 * @param at the reference to where they meet
 */
record JunctionPairs(Reference of, Reference at) {

  /** The one table between; empty if there is none. */
  static Optional<JunctionPairs> between(Catalog catalog, Table of, String at) {
    List<JunctionPairs> found = new ArrayList<>();
    for (Reference one : catalog.references()) {
      for (Reference other : catalog.references()) {
        boolean same = one.from().equals(other.from()) && !one.equals(other);
        if (same
            && one.to().equals(of)
            && !one.isSelfReference()
            && (other.to().name().equalsIgnoreCase(at) || Uses.isRole(at, other))) {
          found.add(new JunctionPairs(one, other));
        }
      }
    }
    if (found.size() > 1) {
      throw new WishException(
          of.name()
              + " meets "
              + at
              + " in several ways: "
              + listed(found.stream().map(JunctionPairs::words).distinct().toList())
              + "; name the role of "
              + at);
    }
    return found.stream().findFirst();
  }

  /** The same for both directions of a table whose rows connect rows of one table. */
  private String words() {
    return Stream.of(of, at).map(Reference::words).sorted().collect(Collectors.joining(" and "));
  }

  /** A sentence stays one: of many ways the first ones say enough. */
  private static String listed(List<String> ways) {
    List<String> first = ways.subList(0, Math.min(3, ways.size()));
    return String.join("; ", first)
        + (ways.size() > first.size() ? "; and " + (ways.size() - first.size()) + " more" : "");
  }

  /** The table between. */
  Table junction() {
    return of.from();
  }

  /** The columns that refer to the pair and to where it meets, each once. */
  private Set<String> columns() {
    Set<String> columns = new LinkedHashSet<>(of.fromColumns());
    columns.addAll(at.fromColumns());
    return columns;
  }

  /** Whether the table between has at most one row for a row of the pair and where it meets. */
  private boolean isSingle() {
    return junction().keys().stream().anyMatch(key -> columns().containsAll(key.columns()));
  }

  /** The table between as a part of FROM; made different where its rows could come twice. */
  String inFrom(Use use) {
    if (isSingle()) {
      return use.inFrom();
    }
    String columns = String.join(", ", columns().stream().map(use.dialect()::write).toList());
    return "(SELECT DISTINCT " + columns + " FROM " + use.tableName() + ") " + use.alias();
  }

  /** That a row of the table between refers to one of the pair. */
  String isOf(Use between, Use one) {
    return equal(between, of.fromColumns(), one, of.toColumns());
  }

  /** That one of the pair is what a row of the table between refers to. */
  String named(Use one, Use between) {
    return equal(one, of.toColumns(), between, of.fromColumns());
  }

  /** That it is where a row of the table between refers to. */
  String place(Use place, Use between) {
    return equal(place, at.toColumns(), between, at.fromColumns());
  }

  /**
   * That some row of the table between for one of the pair meets one for the other.
   *
   * @param place where they meet
   * @param conditions on it; if there are none it is left out
   */
  String exists(Use between, Use further, Use one, Use other, Use place, List<String> conditions) {
    ClauseLayout inner = new ClauseLayout();
    inner.items.add("1");
    inner.from.add(between.inFrom());
    inner.from.add("JOIN " + further.inFrom() + " ON " + meets(between, further));
    if (!conditions.isEmpty()) {
      inner.from.add("JOIN " + place.inFrom() + " ON " + place(place, between));
    }
    inner.where.add(isOf(between, one));
    inner.where.add(isOf(further, other));
    inner.where.addAll(conditions);
    return "EXISTS (\n    " + ClauseLayout.indented(inner.text(), 4) + "\n  )";
  }

  /** That two rows of the table between refer to the same place. */
  String meets(Use one, Use other) {
    return equal(other, at.fromColumns(), one, at.fromColumns());
  }

  private static String equal(Use left, List<String> mine, Use right, List<String> theirs) {
    List<String> parts = new ArrayList<>();
    for (int i = 0; i < mine.size(); i++) {
      parts.add(left.column(mine.get(i)) + " = " + right.column(theirs.get(i)));
    }
    return String.join(" AND ", parts);
  }
}
