package io.lantrel.catalog;

import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Identifier;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** The tables, views, columns, keys and references that a query can use. Immutable. */
public final class Catalog {

  /** Schemas that products look into first when none is named. */
  private static final List<String> USUAL_SCHEMAS = List.of("", "public", "main");

  private final Dialect dialect;
  private final List<Table> tables;
  private final List<View> views;
  private final List<Reference> references;
  private final @Nullable Lookup lookup;
  private final Map<String, List<Table>> tablesByName = new HashMap<>();
  private final Map<String, List<View>> viewsByName = new HashMap<>();

  /**
   * @param dialect how names are compared
   * @throws IllegalArgumentException if two tables or views have one name
   */
  public Catalog(
      Dialect dialect, List<Table> tables, List<View> views, List<Reference> references) {
    this(dialect, tables, views, references, null);
  }

  /**
   * The catalog of a live database.
   *
   * @param lookup how it finds tables; null if that is not known, so that every table may be meant
   */
  public Catalog(
      Dialect dialect,
      List<Table> tables,
      List<View> views,
      List<Reference> references,
      @Nullable Lookup lookup) {
    this.lookup = lookup;
    this.dialect = dialect;
    this.tables = List.copyOf(tables);
    this.views = List.copyOf(views);
    this.references = List.copyOf(references);
    for (Table table : tables) {
      put(tablesByName, table.name(), table, Table::schema);
    }
    for (View view : views) {
      put(viewsByName, view.name(), view, View::schema);
    }
  }

  /**
   * How a live database finds tables.
   *
   * @param path the schemas that are looked into when none is named, in that order
   * @param exactNames whether names of tables and aliases are compared with regard to case,
   *     although those of columns are not
   * @param catalog whose tables these are, where a query may name tables of others, or of schemas
   *     that were not read; empty if there are no others
   */
  public record Lookup(List<String> path, boolean exactNames, String catalog) {
    public Lookup {
      path = List.copyOf(path);
    }
  }

  /** Whether a name means a table, if it is one, that was not read. */
  public boolean isElsewhere(List<Identifier> name) {
    return isOfOtherCatalog(name)
        || (lookup != null
            && !lookup.catalog().isEmpty()
            && name.size() > 1
            && Stream.concat(
                    Stream.concat(
                        tables.stream().map(Table::schema), views.stream().map(View::schema)),
                    lookup.path().stream())
                .noneMatch(each -> dialect.means(name.get(name.size() - 2), each)));
  }

  private boolean isOfOtherCatalog(List<Identifier> name) {
    return lookup != null
        && !lookup.catalog().isEmpty()
        && name.size() > 2
        && !dialect.means(name.get(name.size() - 3), lookup.catalog());
  }

  /** What names of tables, and aliases, are compared by. */
  public String tableKey(String name) {
    return lookup != null && lookup.exactNames() ? name : dialect.key(name);
  }

  private String tableKey(Identifier name) {
    return tableKey(dialect.stored(name));
  }

  private <T> void put(
      Map<String, List<T>> byName, String name, T value, Function<T, String> schema) {
    List<T> same = byName.computeIfAbsent(tableKey(name), key -> new ArrayList<>());
    if (same.stream().anyMatch(other -> schema.apply(other).equals(schema.apply(value)))) {
      throw new IllegalArgumentException("two tables are called " + name);
    }
    same.add(value);
  }

  /** How names are compared. */
  public Dialect dialect() {
    return dialect;
  }

  /** All tables, in the order of the schema. */
  public List<Table> tables() {
    return tables;
  }

  /** All views, in the order of the schema. */
  public List<View> views() {
    return views;
  }

  /** All references, in the order of the schema. */
  public List<Reference> references() {
    return references;
  }

  /** The same tables as another product would have them. */
  public Catalog in(Dialect other) {
    return new Catalog(other, tables, views, references);
  }

  /** The same with other references. */
  public Catalog with(List<Reference> others) {
    return new Catalog(dialect, tables, views, others, lookup);
  }

  /** The same with other tables and references under the same names. */
  Catalog of(List<Table> others, List<Reference> otherReferences) {
    return new Catalog(dialect, others, views, otherReferences, lookup);
  }

  /** Of the tables only some, and the references between those. */
  public Catalog only(Predicate<String> which) {
    return new Catalog(
        dialect,
        tables.stream().filter(table -> which.test(table.name())).toList(),
        views,
        references.stream()
            .filter(each -> which.test(each.from().name()) && which.test(each.to().name()))
            .toList(),
        lookup);
  }

  /**
   * The table that a person means by a name, as the dialect compares names: the one that a query
   * would mean, or else the only one of that name in any schema; or by schema and name.
   */
  public Optional<Table> table(String name) {
    List<Table> same = tablesByName.getOrDefault(tableKey(name), List.of());
    return pick(same, "", Table::schema)
        .or(() -> same.size() == 1 ? Optional.of(same.get(0)) : Optional.empty())
        .or(() -> inSchema(name));
  }

  private Optional<Table> inSchema(String name) {
    int dot = name.indexOf('.');
    String schema = dialect.key(name.substring(0, Math.max(0, dot)));
    return tablesByName.getOrDefault(tableKey(name.substring(dot + 1)), List.of()).stream()
        .filter(table -> dot > 0 && dialect.key(table.schema()).equals(schema))
        .findFirst();
  }

  /** The table that a name in a query means. */
  public Optional<Table> table(List<Identifier> name) {
    return find(tablesByName, name, Table::schema);
  }

  /** The view that a name in a query means. */
  public Optional<View> view(List<Identifier> name) {
    return find(viewsByName, name, View::schema);
  }

  private <T> Optional<T> find(
      Map<String, List<T>> byName, List<Identifier> name, Function<T, String> schema) {
    List<T> same =
        isOfOtherCatalog(name)
            ? List.of()
            : byName.getOrDefault(tableKey(name.get(name.size() - 1)), List.of());
    return pick(same, name.size() > 1 ? dialect.key(name.get(name.size() - 2)) : "", schema);
  }

  /** Of several with one name the one in the schema named, or else in a usual one. */
  private <T> Optional<T> pick(List<T> same, String schema, Function<T, String> schemaOf) {
    if (!schema.isEmpty()) {
      Optional<T> exact =
          same.stream()
              .filter(each -> dialect.key(schemaOf.apply(each)).equals(schema))
              .findFirst();
      return exact.isPresent() || lookup != null
          ? exact
          : same.stream().filter(each -> schemaOf.apply(each).isEmpty()).findFirst();
    }
    if (lookup != null) {
      List<String> path = lookup.path();
      return same.stream()
          .filter(each -> path.contains(schemaOf.apply(each)))
          .min(Comparator.comparingInt(each -> path.indexOf(schemaOf.apply(each))));
    }
    return same.stream()
        .filter(each -> USUAL_SCHEMAS.contains(schemaOf.apply(each)))
        .findFirst()
        .or(() -> same.stream().findFirst());
  }
}
