package io.lantrel.survey;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Table;
import io.lantrel.engine.Rows;
import io.lantrel.survey.TableFigures.ColumnFigures;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Looks for references that no schema declares. What names say picks the candidates, figures that
 * are there already rule most of them out, and only what is left is looked up in the database: a
 * few questions for each column, however many tables there are. Where names leave it open, {@link
 * ByValues values decide}.
 */
final class ReferenceSearch {

  /** From this share of the values on, those of a column named after a table refer to it. */
  static final double NEARLY_ALL = 0.8;

  /** From this share on it is possible: they may, and many are broken. */
  static final double MOST = 0.5;

  /** How much likelier one of several meanings must be than all others together. */
  private static final double LIKELY = 0.9;

  private final Candidates candidates;
  private final ValueLookup values;
  private final ByValues byValues;
  private final CompositeSearch composites;
  private final TableNames names;
  private final Set<End> declared;

  ReferenceSearch(
      Catalog catalog,
      ValueLookup values,
      Map<Table, TableFigures> figures,
      Keys keys,
      TableNames names,
      HierarchyWalks walks) {
    this.names = names;
    this.candidates = new Candidates(figures, keys, names);
    this.values = values;
    this.byValues = new ByValues(values, walks);
    this.composites = new CompositeSearch(figures, keys, names, values);
    this.declared =
        catalog.references().stream()
            .map(each -> new End(each.from(), each.fromColumns()))
            .collect(Collectors.toSet());
  }

  private record End(Table table, List<String> columns) {}

  /** The references of a table's columns, observed and possible. */
  List<Found> of(TableFigures from) {
    List<Found> several =
        composites.found(from, columns -> declared.contains(new End(from.table(), columns)));
    Set<String> taken = new HashSet<>();
    several.stream()
        .filter(each -> each.reference().basis() == Basis.OBSERVED)
        .forEach(each -> taken.addAll(each.reference().fromColumns()));
    List<Found> found = new ArrayList<>();
    for (ColumnFigures column : from.columns()) {
      String name = column.column().name();
      boolean known = declared.contains(new End(from.table(), List.of(name)));
      if (!known && column.values() > 0 && canRefer(column)) {
        found.addAll(ofColumn(from, column, taken.contains(name)));
      }
    }
    found.addAll(several);
    return found;
  }

  private static boolean canRefer(ColumnFigures column) {
    ValueKind kind = ValueKind.of(column.column().type());
    return kind == ValueKind.NUMBER || kind == ValueKind.TEXT || kind == ValueKind.UUID;
  }

  /**
   * @param taken whether it refers together with others: then only a name makes it refer alone
   */
  private List<Found> ofColumn(TableFigures from, ColumnFigures column, boolean taken) {
    List<Candidate> all = candidates.of(from, column);
    for (NameMatch match : List.of(NameMatch.TABLE, NameMatch.ROLE_AND_TABLE)) {
      List<Found> named = named(only(all, match));
      if (!named.isEmpty()) {
        return named;
      }
    }
    if (taken) {
      return List.of();
    }
    List<Found> abbreviated = abbreviated(only(all, NameMatch.ABBREVIATION));
    if (!abbreviated.isEmpty()) {
      return abbreviated;
    }
    List<Found> parts = parts(only(all, NameMatch.PART));
    if (!parts.isEmpty()) {
      return parts;
    }
    return byValues.found(
        all.stream()
            .filter(each -> each.match().compareTo(NameMatch.PART) >= 0 || each.isSelf())
            .toList());
  }

  private static List<Candidate> only(List<Candidate> candidates, NameMatch match) {
    return candidates.stream().filter(each -> each.match() == match).toList();
  }

  private List<Found> named(List<Candidate> named) {
    List<Candidate> tried =
        named.stream()
            .sorted(Comparator.comparingLong((Candidate each) -> -each.key().values()))
            .limit(ByValues.TRIED)
            .toList();
    List<Found> found = new ArrayList<>();
    values
        .of(tried)
        .forEach(
            (candidate, rows) -> {
              double share = ValueLookup.share(rows);
              if (share >= MOST) {
                Basis basis = share >= NEARLY_ALL ? Basis.OBSERVED : Basis.POSSIBLE;
                found.add(Found.of(candidate, basis, rows, share * 2, List.of()));
              }
            });
    // Of several tables with such a key one is meant.
    return found.stream()
        .max(Comparator.comparingDouble(Found::score))
        .map(
            best ->
                found.stream()
                    .map(each -> each.equals(best) ? each : each.possible())
                    .filter(each -> ValueLookup.share(each.figures()) == 1 || sameEnds(each, best))
                    .toList())
        .orElse(List.of());
  }

  private static boolean sameEnds(Found one, Found two) {
    return one.reference().words().equals(two.reference().words());
  }

  /** A number must say that it is a key: {@code dept_no}, and not {@code dep}. */
  private static boolean saysKey(Candidate candidate) {
    return ValueKind.of(candidate.column().column().type()) != ValueKind.NUMBER
        || NameParts.of(candidate.column().column().name()).saysKey();
  }

  /** The best abbreviation; of several that are as good, values decide if they can. */
  private List<Found> abbreviated(List<Candidate> abbreviated) {
    List<Candidate> left =
        ByValues.byLikelihood(abbreviated).stream()
            .filter(ReferenceSearch::saysKey)
            .sorted(Comparator.comparingInt(each -> -quality(each)))
            .limit(ByValues.TRIED)
            .toList();
    Map<Candidate, Rows> fitting = values.of(left);
    fitting.values().removeIf(rows -> ValueLookup.share(rows) < 0.9);
    int best = fitting.keySet().stream().mapToInt(this::quality).max().orElse(0);
    fitting.keySet().removeIf(each -> quality(each) < best);
    List<Found> found = new ArrayList<>();
    fitting.forEach((candidate, rows) -> found.add(abbreviated(candidate, rows, fitting.keySet())));
    return found.stream()
        .filter(each -> each.reference().basis() == Basis.OBSERVED)
        .findFirst()
        .map(List::of)
        .orElse(found);
  }

  private static Found abbreviated(Candidate candidate, Rows rows, Set<Candidate> fitting) {
    List<Candidate> others = fitting.stream().filter(each -> !each.equals(candidate)).toList();
    boolean likely = others.isEmpty() || ByValues.chance(candidate, List.copyOf(fitting)) >= LIKELY;
    boolean sure = ValueLookup.share(rows) == 1 && likely;
    List<String> reasons =
        others.isEmpty()
            ? List.of()
            : List.of(
                "it could be short for "
                    + Words.list(others.stream().map(each -> each.to().table().name()).toList())
                    + " as well");
    return Found.of(candidate, sure ? Basis.OBSERVED : Basis.POSSIBLE, rows, 1, reasons);
  }

  private int quality(Candidate candidate) {
    Table from = candidate.from().table();
    NameParts name = names.own(from, candidate.column().column().name());
    return name.withoutKeyWord().isShortFor(names.words(candidate.to().table())).orElse(0);
  }

  private List<Found> parts(List<Candidate> named) {
    List<Candidate> tried =
        ByValues.byLikelihood(named).stream()
            .limit(ByValues.TRIED)
            .filter(ReferenceSearch::saysKey)
            .toList();
    List<Found> found = new ArrayList<>();
    values
        .of(tried)
        .forEach(
            (candidate, rows) -> {
              double share = ValueLookup.share(rows);
              if (share >= 0.9) {
                boolean sure = share == 1 && found.isEmpty();
                Basis basis = sure ? Basis.OBSERVED : Basis.POSSIBLE;
                found.add(Found.of(candidate, basis, rows, share, List.of()));
              }
            });
    return found;
  }
}
