package io.lantrel.survey;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Rows;
import io.lantrel.probe.Asker;
import io.lantrel.survey.TableFigures.ColumnFigures;
import io.lantrel.survey.walk.HierarchyWalk;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Looks for references that no schema declares. What names say picks the candidates, figures that
 * are there already rule most of them out, and only what is left is looked up in the database: a
 * few questions for each column, however many tables there are.
 *
 * <p>Where names leave open which table is meant, values decide: if all values of a column are
 * found among the keys of several tables, the table with the fewest keys explains them best, since
 * n values drawn from N keys come with a likelihood of N to the power of -n (J. B. Tenenbaum and T.
 * L. Griffiths, Generalization, similarity, and Bayesian inference, 2001: the size principle). A
 * column that makes a hierarchy of its own table without a circle is likelier to do so on purpose,
 * the fewer roots it has: among random mappings with k roots of n rows, one in n/k has no circle.
 */
final class ReferenceSearch {

  /** Of the tables that a column may refer to so many are looked up. */
  private static final int TRIED = 5;

  /** How much likelier the best explanation must be than the next one to be called observed. */
  private static final double CLEAR = Math.log(3);

  /** A column that names no table rather refers to its own than to any other one. */
  private static final double OWN_TABLE = Math.log(4);

  private final Catalog catalog;
  private final Asker asker;
  private final Map<Table, TableFigures> figures;
  private final Keys keys;
  private final Set<End> declared;
  private final boolean partial;
  private final HierarchyWalks walks;

  /**
   * @param partial whether there are tables that are not looked at: then a column that names none
   *     may refer to one of those
   */
  ReferenceSearch(
      Catalog catalog,
      Asker asker,
      Map<Table, TableFigures> figures,
      Keys keys,
      HierarchyWalks walks,
      boolean partial) {
    this.walks = walks;
    this.partial = partial;
    this.catalog = catalog;
    this.asker = asker;
    this.figures = figures;
    this.keys = keys;
    this.declared =
        catalog.references().stream()
            .map(each -> new End(each.from(), each.fromColumns()))
            .collect(Collectors.toSet());
  }

  private record End(Table table, List<String> columns) {}

  /**
   * What was found.
   *
   * @param reference with how sure it is
   * @param figures what {@link TableQuestions#figures(Reference)} was answered
   * @param score by which the most convincing comes first
   * @param reasons what speaks for it
   */
  record Found(Reference reference, Rows figures, double score, List<String> reasons) {}

  /** The references of a table's columns, observed and possible. */
  List<Found> of(TableFigures from) {
    List<Found> found = new ArrayList<>();
    for (ColumnFigures column : from.columns()) {
      String name = column.column().name();
      boolean known = declared.contains(new End(from.table(), List.of(name)));
      if (!known && column.values() > 0 && canRefer(column)) {
        found.addAll(ofColumn(from, column));
      }
    }
    found.addAll(new CompositeSearch(from).found());
    return found;
  }

  private static boolean canRefer(ColumnFigures column) {
    ValueKind kind = ValueKind.of(column.column().type());
    return kind == ValueKind.NUMBER || kind == ValueKind.TEXT || kind == ValueKind.UUID;
  }

  private List<Found> ofColumn(TableFigures from, ColumnFigures column) {
    List<Candidate> candidates = candidates(from, column);
    for (NameMatch match : List.of(NameMatch.TABLE, NameMatch.ROLE_AND_TABLE)) {
      List<Found> named = named(only(candidates, match));
      if (!named.isEmpty()) {
        return named;
      }
    }
    List<Found> parts = parts(only(candidates, NameMatch.PART));
    if (!parts.isEmpty()) {
      return parts;
    }
    return byValues(
        candidates.stream()
            .filter(each -> each.match().compareTo(NameMatch.PART) >= 0 || each.isSelf())
            .toList());
  }

  private static List<Candidate> only(List<Candidate> candidates, NameMatch match) {
    return candidates.stream().filter(each -> each.match() == match).toList();
  }

  /** Every key of one column that is of the same kind, and not the column itself. */
  private List<Candidate> candidates(TableFigures from, ColumnFigures column) {
    List<Candidate> candidates = new ArrayList<>();
    boolean isKey =
        keys.of(from.table()).stream()
            .anyMatch(key -> key.columns().equals(List.of(column.column().name())));
    for (TableFigures to : figures.values()) {
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
            NameMatch.of(from.table(), column.column().name(), to.table(), target.column().name());
        candidates.add(new Candidate(from, column, to, target, match));
      }
    }
    return candidates;
  }

  /**
   * Two tables may share their keys, one row beside one row: then the one with the longer name, or
   * with fewer rows, refers to the other, and the names must say so.
   */
  private static boolean mayShareKey(
      TableFigures from, ColumnFigures column, TableFigures to, ColumnFigures target) {
    NameParts own = NameParts.ofTable(from.table().name());
    NameParts other = NameParts.ofTable(to.table().name());
    NameParts name = NameParts.of(column.column().name());
    NameParts keyName = NameParts.of(target.column().name());
    boolean extendsIt = own.words().size() > other.words().size() && own.sharesWordWith(other);
    boolean smaller =
        column.values() < target.values()
            || (column.values() == target.values()
                && own.joined().length() > other.joined().length());
    if (from.equals(to)) {
      return false;
    }
    if (name.isSame(keyName)) {
      return smaller && (name.isCommon() ? extendsIt && !column.isDense() : true);
    }
    return name.withoutKeyWord().isSame(other);
  }

  // ---- what names decide ----

  private List<Found> named(List<Candidate> candidates) {
    List<Found> found = new ArrayList<>();
    candidates.stream()
        .sorted(Comparator.comparingLong((Candidate each) -> -each.key().values()))
        .limit(TRIED)
        .forEach(
            candidate ->
                look(candidate)
                    .ifPresent(
                        rows -> {
                          double share = share(rows);
                          if (share >= 0.5) {
                            Basis basis = share >= 0.8 ? Basis.OBSERVED : Basis.POSSIBLE;
                            found.add(found(candidate, basis, rows, share * 2, List.of()));
                          }
                        }));
    // Of several tables with such a key one is meant.
    return found.stream()
        .max(Comparator.comparingDouble(Found::score))
        .map(
            best ->
                found.stream()
                    .map(each -> each.equals(best) ? each : lower(each))
                    .filter(each -> share(each.figures()) == 1 || each.equals(best))
                    .toList())
        .orElse(List.of());
  }

  private static Found lower(Found found) {
    Reference old = found.reference();
    Reference possible =
        new Reference(old.from(), old.fromColumns(), old.to(), old.toColumns(), Basis.POSSIBLE);
    return new Found(possible, found.figures(), found.score() - 50, found.reasons());
  }

  private List<Found> parts(List<Candidate> candidates) {
    List<Found> found = new ArrayList<>();
    for (Candidate candidate : byLikelihood(candidates)) {
      String name = candidate.column().column().name();
      boolean number = ValueKind.of(candidate.column().column().type()) == ValueKind.NUMBER;
      if (number && !NameParts.of(name).saysKey()) {
        continue;
      }
      look(candidate)
          .filter(rows -> share(rows) >= 0.9)
          .ifPresent(
              rows -> {
                boolean sure = share(rows) == 1 && found.isEmpty();
                Basis basis = sure ? Basis.OBSERVED : Basis.POSSIBLE;
                found.add(found(candidate, basis, rows, share(rows), List.of()));
              });
    }
    return found;
  }

  // ---- what values decide ----

  private static List<Candidate> byLikelihood(List<Candidate> candidates) {
    return candidates.stream()
        .filter(each -> each.column().isWithin(each.key()))
        .filter(each -> each.column().values() <= each.key().values())
        .sorted(Comparator.comparingDouble(each -> -likelihood(each)))
        .limit(TRIED)
        .toList();
  }

  /** The logarithm of how likely the values are if they were drawn from the keys. */
  private static double likelihood(Candidate candidate) {
    return -(double) candidate.column().values() * Math.log((double) candidate.key().values())
        + (candidate.isSelf() ? OWN_TABLE : 0);
  }

  /** One of several explanations that all hold. */
  private record Explanation(Candidate candidate, Rows rows, double likelihood, String reason) {}

  private List<Found> byValues(List<Candidate> candidates) {
    List<Explanation> explanations = new ArrayList<>();
    for (Candidate candidate : byLikelihood(candidates)) {
      if (candidate.isSelf()) {
        ownTable(candidate).ifPresent(explanations::add);
      } else if (saysEnough(candidate)) {
        look(candidate)
            .filter(rows -> share(rows) == 1)
            .ifPresent(
                rows ->
                    explanations.add(new Explanation(candidate, rows, likelihood(candidate), "")));
      }
    }
    explanations.sort(Comparator.comparingDouble((Explanation each) -> -each.likelihood()));
    List<Found> found = new ArrayList<>();
    for (Explanation each : explanations.stream().limit(2).toList()) {
      boolean clear =
          found.isEmpty()
              && (explanations.size() == 1
                  || each.likelihood() - explanations.get(1).likelihood() >= CLEAR);
      boolean enough =
          each.candidate().isSelf() || (each.candidate().column().values() >= 3 && !partial);
      Basis basis = clear && enough ? Basis.OBSERVED : Basis.POSSIBLE;
      List<String> reasons = each.reason().isEmpty() ? List.of() : List.of(each.reason());
      found.add(found(each.candidate(), basis, each.rows(), 0, reasons));
      if (basis == Basis.OBSERVED) {
        break;
      }
    }
    return found;
  }

  /**
   * Whether a column that names no table can be believed to refer at all. Small numbers are found
   * among the keys of nearly every table, so their column has to say that it refers; a text that is
   * a key elsewhere seldom is so by chance, if it comes more than once.
   */
  private static boolean saysEnough(Candidate candidate) {
    return switch (ValueKind.of(candidate.column().column().type())) {
      case NUMBER -> candidate.match() == NameMatch.RELATION;
      case TEXT, UUID ->
          candidate.column().values() >= 2
              && candidate.column().values() < candidate.column().filled();
      case MEASURE, OPAQUE -> false;
    };
  }

  /** A hierarchy of the column's own table: every row is below a root, and some are not roots. */
  private Optional<Explanation> ownTable(Candidate candidate) {
    long rows = candidate.from().rows();
    long roots = rows - candidate.column().filled();
    boolean says = candidate.match() != NameMatch.NONE;
    if (roots == 0 || rows < 3 || (!says && (roots * 2 > rows || rows < 6))) {
      return Optional.empty();
    }
    Optional<Rows> answer = look(candidate).filter(each -> share(each) == 1);
    if (answer.isEmpty()) {
      return Optional.empty();
    }
    HierarchyWalk.Levels levels = walks.levels(candidate.reference(Basis.OBSERVED));
    if (levels.reached() < rows || (!says && levels.levels() < 3)) {
      return Optional.empty();
    }
    return Optional.of(
        new Explanation(
            candidate,
            answer.get(),
            likelihood(candidate) + Math.log((double) rows / roots),
            "a hierarchy of " + levels.levels() + " levels"));
  }

  // ---- figures ----

  private Optional<Rows> look(Candidate candidate) {
    return look(candidate.reference(Basis.POSSIBLE));
  }

  /** What an engine cannot compare is no reference, whatever the names say. */
  private Optional<Rows> look(Reference reference) {
    Table from = reference.from();
    try {
      return Optional.of(asker.ask(new TableQuestions(from, catalog).figures(reference)));
    } catch (DatabaseException failure) {
      if (failure.reason() == DatabaseException.Reason.REFUSED
          || failure.reason() == DatabaseException.Reason.NOT_READ) {
        return Optional.empty();
      }
      throw failure;
    }
  }

  /** Which part of the values is there. */
  private static double share(Rows rows) {
    long values = rows.figure(2);
    return values == 0 ? 0 : (double) rows.figure(3) / values;
  }

  private static Found found(
      Candidate candidate, Basis basis, Rows rows, double more, List<String> reasons) {
    List<String> all = new ArrayList<>();
    if (candidate.match() != NameMatch.NONE) {
      all.add(candidate.match().words());
    }
    all.addAll(reasons);
    all.add(valuesFound(rows));
    double names = 100 - 20.0 * candidate.match().ordinal();
    double sure = basis == Basis.OBSERVED ? 100 : 0;
    double many = Math.log10(1.0 + candidate.column().values());
    return new Found(candidate.reference(basis), rows, sure + names + more * 10 + many, all);
  }

  private static String valuesFound(Rows rows) {
    long values = rows.figure(2);
    long there = rows.figure(3);
    return values == there
        ? (values == 1 ? "its one value found" : "all " + values + " values found")
        : there + " of " + values + " values found";
  }

  /** References of several columns: by names alone, then looked up. */
  private final class CompositeSearch {
    private final TableFigures from;

    CompositeSearch(TableFigures from) {
      this.from = from;
    }

    List<Found> found() {
      List<Found> found = new ArrayList<>();
      for (TableFigures to : figures.values()) {
        for (Key key : keys.of(to.table())) {
          if (key.columns().size() > 1 && !to.equals(from) && to.rows() > 0) {
            columns(to, key)
                .filter(columns -> !declared.contains(new End(from.table(), columns)))
                .flatMap(columns -> lookedUp(to, key, columns))
                .ifPresent(found::add);
          }
        }
      }
      return found;
    }

    /** The columns that are named like those of the key; empty unless there is one for each. */
    private Optional<List<String>> columns(TableFigures to, Key key) {
      List<String> columns = new ArrayList<>();
      for (String name : key.columns()) {
        ColumnFigures target = to.column(name);
        NameParts wanted = NameParts.of(name);
        NameParts longer = NameParts.ofTable(to.table().name()).and(wanted);
        from.columns().stream()
            .filter(
                each -> ValueKind.of(each.column().type()) == ValueKind.of(target.column().type()))
            .filter(each -> each.filled() > 0)
            .map(each -> each.column().name())
            .filter(each -> !columns.contains(each))
            .filter(each -> NameParts.of(each).isSame(wanted) || NameParts.of(each).isSame(longer))
            .findFirst()
            .ifPresent(columns::add);
      }
      boolean own = keys.of(from.table()).stream().anyMatch(each -> each.columns().equals(columns));
      boolean shared = own && from.rows() >= to.rows();
      return columns.size() == key.columns().size() && !shared
          ? Optional.of(columns)
          : Optional.empty();
    }

    private Optional<Found> lookedUp(TableFigures to, Key key, List<String> columns) {
      Reference reference =
          new Reference(from.table(), columns, to.table(), key.columns(), Basis.OBSERVED);
      return look(reference)
          .filter(rows -> share(rows) >= 0.9)
          .map(
              rows ->
                  new Found(
                      reference,
                      rows,
                      190 + share(rows) * 10,
                      List.of("its columns are named like those of the key", valuesFound(rows))));
    }
  }
}
