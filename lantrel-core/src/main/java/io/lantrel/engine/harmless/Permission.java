package io.lantrel.engine.harmless;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.View;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Query;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/** Decides whether a query may run on a database. */
public final class Permission {

  /** How the sentence ends that refuses a function; its name follows. */
  public static final String ALLOW = "allow it by its name";

  /** Schemas of the products themselves: what is in them only tells about the database. */
  private static final Set<String> TELLING =
      Set.of("information_schema", "pg_catalog", "performance_schema", "sqlite_schema");

  private static final Set<String> TELLING_TABLES =
      Set.of("dual", "sqlite_schema", "sqlite_master", "sqlite_temp_schema", "sqlite_temp_master");

  /** What conditions use without naming it: =, and what BETWEEN, LIKE and IN mean. */
  private static final Set<String> IMPLIED =
      Set.of("=", "<>", "<", "<=", ">", ">=", "~~", "!~~", "~~*", "!~~*");

  private static final Pattern NOT_IN_NAMES = Pattern.compile("[^\\p{L}\\p{N}_$]+");

  private final Catalog catalog;
  private final Dialect dialect;
  private final DatabaseObjects objects;
  private final Set<String> allowed;

  /** The views that were looked through and found harmless. */
  private final Map<Query, Boolean> harmless = new IdentityHashMap<>();

  /**
   * @param catalog the tables that a query can use
   * @param objects what the database has besides
   * @param allowed functions and other things that the user knows to be harmless
   */
  public Permission(Catalog catalog, DatabaseObjects objects, Set<String> allowed) {
    this.catalog = catalog;
    this.dialect = catalog.dialect();
    this.objects = objects;
    this.allowed = allowed.stream().map(Permission::key).collect(Collectors.toSet());
  }

  /** Reads the list of a product, which the first query would wait for. */
  public static void warmUp(Dialect dialect) {
    HarmlessFunctions.of(dialect);
  }

  /** Why the query does not run, in a sentence; empty if it may. */
  public Optional<String> refusal(Query query) {
    return refusal(query, new HashSet<>());
  }

  /**
   * @param open the views that are being looked through
   */
  private Optional<String> refusal(Query query, Set<String> open) {
    QueryUses uses = new QueryUses(query);
    if (uses.sequence() != null) {
      return Optional.of(uses.sequence() + " draws a number from a sequence, so this is not run");
    }
    return functions(uses)
        .or(() -> columns(uses))
        .or(() -> operators(uses))
        .or(() -> types(uses))
        .or(() -> tables(uses, open));
  }

  // ---- functions ----

  private Optional<String> functions(QueryUses uses) {
    return uses.functions().stream()
        .filter(name -> !isHarmless(name))
        .findFirst()
        .map(
            name ->
                mayDoMore("the function " + shown(name), dialectKey(name.get(name.size() - 1))));
  }

  private boolean isHarmless(List<Identifier> name) {
    String key = dialectKey(name.get(name.size() - 1));
    if (isAllowed(key) || (name.size() > 1 && isAllowed(shown(name)))) {
      return true;
    }
    boolean builtIn = name.size() == 1 || isOfProduct(name);
    return builtIn && !objects.functions().contains(key) && known().contains(key);
  }

  /** In DuckDB what stands before the dot is the first argument: {@code name.upper()}. */
  private boolean isOfProduct(List<Identifier> name) {
    return dialect == Dialect.DUCKDB || isOfPostgresql(name);
  }

  private boolean isOfPostgresql(List<Identifier> name) {
    return name.size() == 2
        && dialect == Dialect.POSTGRESQL
        && dialectKey(name.get(0)).equals("pg_catalog");
  }

  private Set<String> known() {
    return HarmlessFunctions.of(dialect);
  }

  /** A letter but A to Z is never made small: the products differ in what becomes of it. */
  private String dialectKey(Identifier name) {
    return name.quoted() && dialect == Dialect.POSTGRESQL
        ? name.text()
        : name.quoted() ? key(dialect.fromProduct(name.text())) : key(name.text());
  }

  private static String key(String name) {
    boolean ascii = name.chars().allMatch(c -> c < 128);
    return ascii ? name.toLowerCase(Locale.ROOT) : name;
  }

  private boolean isAllowed(String name) {
    return allowed.contains(key(name));
  }

  private static String shown(List<Identifier> name) {
    return name.stream().map(Identifier::text).collect(Collectors.joining("."));
  }

  private static String mayDoMore(String what, String name) {
    return what
        + " is not known to only compute, so this is not run; if you know that it changes nothing,"
        + " "
        + ALLOW
        + ", "
        + name;
  }

  /** {@code t.f} calls f(t) where no column has that name. */
  private Optional<String> columns(QueryUses uses) {
    if (objects.fieldFunctions().isEmpty() && !drawsByColumn()) {
      return Optional.empty();
    }
    return uses.columns().stream()
        .map(this::dialectKey)
        .filter(name -> objects.fieldFunctions().contains(name) && !isAllowed(name))
        .findFirst()
        .map(name -> mayDoMore("the function " + name + ", which is called like a column,", name))
        .or(
            () ->
                uses.columns().stream()
                    .filter(name -> !name.quoted() && name.means("nextval") && drawsByColumn())
                    .findFirst()
                    .map(name -> name.text() + " draws a number from a sequence"));
  }

  private boolean drawsByColumn() {
    return switch (dialect) {
      case MARIADB, H2, HSQLDB, STANDARD -> true;
      case DUCKDB, POSTGRESQL, SQLITE, TRINO -> false;
    };
  }

  private Optional<String> operators(QueryUses uses) {
    return objects.operators().stream()
        .filter(
            sign ->
                uses.operators().stream().anyMatch(each -> each.contains(sign))
                    || IMPLIED.contains(sign))
        .filter(sign -> !isAllowed(sign))
        .sorted()
        .findFirst()
        .map(
            sign ->
                mayDoMore("the operator " + sign + ", which this database defines itself,", sign))
        .or(
            () ->
                objects.casts().stream()
                    .filter(name -> !isAllowed(name))
                    .sorted()
                    .findFirst()
                    .map(
                        name ->
                            mayDoMore(
                                "the function "
                                    + name
                                    + ", by which this database converts values,",
                                name)));
  }

  private Optional<String> types(QueryUses uses) {
    if (objects.types().isEmpty()) {
      return Optional.empty();
    }
    return uses.types().stream()
        .flatMap(text -> NOT_IN_NAMES.splitAsStream(text))
        .filter(word -> objects.types().stream().anyMatch(type -> type.equalsIgnoreCase(word)))
        .filter(word -> !isAllowed(word))
        .findFirst()
        .map(word -> mayDoMore("the type " + word + ", whose values this database tests,", word));
  }

  // ---- tables ----

  private Optional<String> tables(QueryUses uses, Set<String> open) {
    for (List<Identifier> name : uses.tables()) {
      Optional<String> refusal = table(name, uses.isCommonTable(name), open);
      if (refusal.isPresent()) {
        return refusal;
      }
    }
    return Optional.empty();
  }

  private Optional<String> table(List<Identifier> name, boolean common, Set<String> open) {
    Optional<View> view = catalog.view(name);
    if (view.isPresent()) {
      return view(view.get(), open);
    }
    Optional<Table> table = catalog.table(name);
    if (table.isPresent()) {
      return table(table.get(), open);
    }
    boolean told =
        common
            || (name.size() > 1 && TELLING.contains(name.get(name.size() - 2).key()))
            || (name.size() == 1 && TELLING_TABLES.contains(name.get(0).key()))
            || (name.size() == 1 && isTableOfProduct(name.get(0)));
    return told || isAllowed(name.get(name.size() - 1).text())
        ? Optional.empty()
        : Optional.of(
            "the table "
                + shown(name)
                + " is not among those that were read, so nobody knows what is behind it, and this"
                + " is not run");
  }

  /** Tables of SQLite that are functions, and what PostgreSQL finds without its schema. */
  private boolean isTableOfProduct(Identifier name) {
    return (dialect == Dialect.SQLITE && known().contains(name.key()))
        || (dialect == Dialect.POSTGRESQL && name.key().startsWith("pg_"));
  }

  private Optional<String> table(Table table, Set<String> open) {
    String key = DatabaseObjects.key(table.schema(), table.name());
    if (objects.views().contains(key) && !isAllowed(table.name())) {
      return Optional.of(
          mayDoMore("the view " + table.name() + ", which Lantrel cannot read,", table.name()));
    }
    return stored(key, table.name(), open);
  }

  /**
   * What is behind rows that are stored: of a table, or of a partition, which is read as a view.
   */
  private Optional<String> stored(String key, String name, Set<String> open) {
    if (isAllowed(name)) {
      return Optional.empty();
    }
    String behind = objects.tables().get(key);
    if (behind != null && !isAllowed(behind)) {
      return Optional.of(mayDoMore(behind + ", which is behind the table " + name + ",", behind));
    }
    String condition = objects.conditions().get(key);
    return condition == null ? Optional.empty() : condition(key, name, condition, open);
  }

  private Optional<String> view(View view, Set<String> open) {
    if (isAllowed(view.name())) {
      return Optional.empty();
    }
    Query query = view.query();
    if (query == null) {
      return Optional.of(
          mayDoMore("the view " + view.name() + ", which Lantrel cannot read,", view.name()));
    }
    String key = DatabaseObjects.key(view.schema(), view.name());
    if (harmless.containsKey(query) || !open.add(key)) {
      return Optional.empty();
    }
    Optional<String> stored = stored(key, view.name(), open);
    if (stored.isPresent()) {
      return stored;
    }
    Optional<String> refusal =
        refusal(query, open).map(reason -> "behind the view " + view.name() + ": " + reason);
    if (refusal.isEmpty()) {
      harmless.put(query, true);
    }
    return refusal;
  }

  /** What PostgreSQL adds to every query of a table (row security). */
  private Optional<String> condition(String key, String name, String condition, Set<String> open) {
    if (!open.add("condition of " + key)) {
      return Optional.empty();
    }
    try {
      return refusal(SqlReader.readQuery("SELECT " + condition, dialect), open)
          .map(reason -> "in the row security of the table " + name + ": " + reason);
    } catch (SyntaxException unread) {
      return Optional.of(
          mayDoMore(
              "the row security of the table " + name + ", which Lantrel cannot read,", name));
    }
  }
}
