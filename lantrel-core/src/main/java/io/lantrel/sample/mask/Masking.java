package io.lantrel.sample.mask;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.sample.SampleException;
import io.lantrel.sample.SampleWish;
import io.lantrel.sample.SampledTable;
import io.lantrel.survey.Survey.TableSurvey;
import io.lantrel.words.Wildcard;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;
import org.jgrapht.alg.connectivity.ConnectivityInspector;
import org.jgrapht.graph.DefaultEdge;
import org.jgrapht.graph.SimpleGraph;
import org.jspecify.annotations.Nullable;

/**
 * Replaces the values of columns, equal ones by equal ones. Columns that refer to each other are
 * masked together, so that every reference stays what it is.
 */
public final class Masking {

  private final SampleWish wish;

  /** Columns whose values are replaced alike. */
  private final List<Set<Place>> groups;

  /** A column of a table. */
  private record Place(Table table, Column column) {
    String words() {
      return table.name() + "." + column.name();
    }
  }

  private Masking(SampleWish wish, List<Set<Place>> groups) {
    this.wish = wish;
    this.groups = groups;
  }

  /**
   * Finds the columns that are meant.
   *
   * @throws SampleException if nothing is called so, or its values cannot be replaced
   */
  public static Masking of(SampleWish wish, List<TableSurvey> tables, List<Reference> references) {
    SimpleGraph<Place, DefaultEdge> alike = new SimpleGraph<>(DefaultEdge.class);
    for (TableSurvey each : tables) {
      each.table().columns().forEach(column -> alike.addVertex(new Place(each.table(), column)));
    }
    for (Reference reference : references) {
      for (int i = 0; i < reference.fromColumns().size(); i++) {
        Place from = place(reference.from(), reference.fromColumns().get(i));
        Place to = place(reference.to(), reference.toColumns().get(i));
        if (!from.equals(to)) {
          alike.addEdge(from, to);
        }
      }
    }
    ConnectivityInspector<Place, DefaultEdge> together = new ConnectivityInspector<>(alike);
    Set<Set<Place>> groups = new LinkedHashSet<>();
    for (String wanted : wish.masked()) {
      List<Place> meant = alike.vertexSet().stream().filter(each -> isMeant(each, wanted)).toList();
      if (meant.isEmpty()) {
        throw new SampleException(
            "nothing to mask is called "
                + wanted
                + "; name a column, as "
                + alike.vertexSet().stream().findFirst().map(Place::words).orElse("table.column"));
      }
      meant.forEach(each -> groups.add(together.connectedSetOf(each)));
    }
    groups.forEach(
        group -> group.forEach(each -> Replacements.require(each.words(), each.column())));
    return new Masking(wish, List.copyOf(groups));
  }

  private static Place place(Table table, String column) {
    return new Place(
        table,
        table.columns().stream()
            .filter(each -> each.name().equals(column))
            .findFirst()
            .orElseThrow());
  }

  /** Whether a text names a column: by itself, or with its table. */
  private static boolean isMeant(Place place, String wanted) {
    Pattern pattern = Wildcard.of(wanted);
    return pattern.matcher(place.words()).matches()
        || (!wanted.contains(".") && pattern.matcher(place.column().name()).matches());
  }

  /** The columns that are masked, as {@code station.name}, in order. */
  public List<String> columns() {
    Set<String> names = new TreeSet<>();
    groups.forEach(group -> group.forEach(each -> names.add(each.words())));
    return List.copyOf(names);
  }

  /**
   * The tables with other values.
   *
   * @throws SampleException if there are not enough values that keep what shall be kept
   */
  public List<SampledTable> masked(List<SampledTable> tables) {
    Map<Place, Map<String, String>> byPlace = new LinkedHashMap<>();
    for (Set<Place> group : groups) {
      Set<String> values = new TreeSet<>();
      for (SampledTable each : tables) {
        for (int i = 0; i < each.table().columns().size(); i++) {
          if (group.contains(new Place(each.table(), each.table().columns().get(i)))) {
            for (List<@Nullable String> row : each.rows()) {
              String value = row.get(i);
              if (value != null) {
                values.add(value);
              }
            }
          }
        }
      }
      List<Place> places = List.copyOf(group);
      Map<String, String> others =
          new Replacements(
                  places.get(0).words(),
                  places.stream().map(Place::column).toList(),
                  wish.kept(),
                  wish.seed())
              .of(values);
      places.forEach(each -> byPlace.put(each, others));
    }
    return tables.stream().map(each -> replaced(each, byPlace)).toList();
  }

  private static SampledTable replaced(
      SampledTable table, Map<Place, Map<String, String>> byPlace) {
    List<List<@Nullable String>> rows = new ArrayList<>();
    for (List<@Nullable String> row : table.rows()) {
      List<@Nullable String> other = new ArrayList<>(row);
      for (int i = 0; i < row.size(); i++) {
        String value = row.get(i);
        Map<String, String> others =
            byPlace.get(new Place(table.table(), table.table().columns().get(i)));
        if (value != null && others != null) {
          other.set(i, others.get(value));
        }
      }
      rows.add(other);
    }
    return new SampledTable(table.table(), table.there(), rows);
  }
}
