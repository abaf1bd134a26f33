package io.lantrel.engine;

import io.lantrel.engine.harmless.Permission;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Identifier;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * The database products that Lantrel works at. A new one is a {@link Product}, a {@link Dialect}
 * and a line here; every test of engines runs over this list.
 */
public enum Engine {
  DUCKDB(new DuckDb()),
  POSTGRESQL(new PostgreSql()),
  MARIADB(new MariaDb()),
  SQLITE(new Sqlite()),
  H2(new H2()),
  HSQLDB(new HsqlDb()),
  TRINO(new Trino()),
  /** Any other product whose JDBC driver is on the class path. */
  OTHER(new OtherProduct());

  @SuppressWarnings("ImmutableEnumChecker") // products have no fields
  private final Product product;

  Engine(Product product) {
    this.product = product;
  }

  Product product() {
    return product;
  }

  /** The name in options and files: {@code postgresql}. */
  public String id() {
    return Identifier.key(name());
  }

  /** The name in sentences: {@code PostgreSQL}. */
  public String title() {
    return product.title();
  }

  /** How it reads and writes SQL. */
  public Dialect dialect() {
    return product.dialect();
  }

  /** Whether it can be filled with sample data: it runs within the program, in memory. */
  public boolean isEmbedded() {
    return product instanceof EmbeddedProduct;
  }

  /**
   * Starts an embedded engine once and lets it go again: the first start in a process takes
   * longest, and may as well happen in another thread while something else is done. Does nothing
   * for others.
   *
   * @throws DatabaseException if the engine does not start; opening sample data then tells the same
   */
  public void warmUp(Limits limits) {
    if (product instanceof EmbeddedProduct embedded) {
      // Loading an engine takes longest, and all else waits for it.
      SampleData.warmUp(embedded, limits);
      Permission.warmUp(dialect());
    }
  }

  /** Those that can be filled with sample data. */
  public static List<Engine> embedded() {
    return Arrays.stream(values()).filter(Engine::isEmbedded).toList();
  }

  /** The engine of that name; empty if there is none. */
  public static Optional<Engine> of(String id) {
    return Arrays.stream(values()).filter(each -> each.id().equals(Identifier.key(id))).findFirst();
  }

  /** The engine that a JDBC URL is for. */
  public static Engine ofUrl(String url) {
    String key = Identifier.key(url);
    return Arrays.stream(values())
        .filter(each -> key.startsWith(each.product.urlPrefix()))
        .findFirst()
        .orElse(OTHER);
  }
}
