package io.lantrel.world;

import io.lantrel.world.World.Column;
import io.lantrel.world.World.Reference;
import io.lantrel.world.World.Table;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * Makes worlds of four to six tables: keys of one or two columns, numbers or texts; references that
 * may be empty, to a key of several columns, or to the own table; texts, decimals and dates. The
 * same seed makes the same world.
 */
public final class WorldGenerator {

  private static final List<String> NAMES =
      List.of("brook", "gauge", "sluice", "visit", "photo", "remark");

  private static final int MOST_ROWS = 9;

  /** So many more keys there are than rows, so that not all of them are taken. */
  private static final int SPARE = 3;

  private final Random random;
  private final int most;
  private final boolean keysKept;
  private final boolean referencesKept;
  private final List<Table> tables = new ArrayList<>();
  private final Map<String, List<List<@Nullable String>>> rows = new TreeMap<>();

  /**
   * @param keysKept whether no two rows share a key; servers see to that, sample data need not
   * @param referencesKept whether every reference leads somewhere
   */
  public WorldGenerator(long seed, boolean keysKept, boolean referencesKept) {
    this(seed, keysKept, referencesKept, MOST_ROWS);
  }

  /**
   * The same with larger tables.
   *
   * @param most how many rows a table has at most
   */
  public WorldGenerator(long seed, boolean keysKept, boolean referencesKept, int most) {
    this.most = most;
    this.random = new Random(seed);
    this.keysKept = keysKept;
    this.referencesKept = referencesKept;
  }

  private boolean sometimes(int percent) {
    return random.nextInt(100) < percent;
  }

  public World world() {
    int count = 4 + random.nextInt(NAMES.size() - 3);
    for (int i = 0; i < count; i++) {
      tables.add(table(NAMES.get(i), i));
    }
    tables.forEach(this::fill);
    return new World(List.copyOf(tables), rows);
  }

  // ---- tables ----

  private Table table(String name, int index) {
    List<Column> columns = new ArrayList<>(key(name, index));
    int keyColumns = columns.size();
    List<Reference> references = new ArrayList<>();
    int parents = index == 0 ? 0 : 1 + random.nextInt(Math.min(2, index));
    for (int i = 0; i < parents; i++) {
      refer(name, tables.get(random.nextInt(index)), columns, references);
    }
    if (keyColumns == 1 && sometimes(40)) {
      columns.add(new Column("upper_" + columns.get(0).name(), columns.get(0).type(), true));
      String own = columns.get(columns.size() - 1).name();
      references.add(new Reference(name, List.of(own), name, List.of(columns.get(0).name())));
    }
    columns.add(new Column(name + "_label", "VARCHAR(20)", false));
    columns.add(new Column(name + "_size", "DECIMAL(8,2)", sometimes(50)));
    if (sometimes(50)) {
      columns.add(new Column(name + "_day", "DATE", true));
    }
    if (sometimes(50)) {
      columns.add(new Column(name + "_note", "VARCHAR(20)", true));
    }
    return new Table(name, List.copyOf(columns), keyColumns, List.copyOf(references));
  }

  private List<Column> key(String name, int index) {
    int kind = index == 0 ? 0 : random.nextInt(4);
    return switch (kind) {
      case 2 -> List.of(new Column(name + "_code", "VARCHAR(8)", false));
      case 3 ->
          List.of(
              new Column(name + "_area", "VARCHAR(4)", false),
              new Column(name + "_no", "INTEGER", false));
      default -> List.of(new Column(name + "_id", "INTEGER", false));
    };
  }

  /** Columns that refer have the names of the key, so that USING joins along them. */
  private void refer(String from, Table target, List<Column> columns, List<Reference> references) {
    boolean there = references.stream().anyMatch(each -> each.target().equals(target.name()));
    boolean nullable = sometimes(50);
    List<String> own = new ArrayList<>();
    for (Column key : target.columns().subList(0, target.keyColumns())) {
      String name = (there ? "other_" : "") + key.name();
      own.add(name);
      columns.add(new Column(name, key.type(), nullable));
    }
    references.add(new Reference(from, own, target.name(), target.key()));
  }

  // ---- rows ----

  private void fill(Table table) {
    int count = sometimes(8) ? 0 : 1 + random.nextInt(most);
    List<List<@Nullable String>> made = new ArrayList<>();
    Set<List<@Nullable String>> keys = new HashSet<>();
    rows.put(table.name(), made);
    for (int i = 0; i < count; i++) {
      List<@Nullable String> row = row(table);
      List<@Nullable String> key = List.copyOf(row.subList(0, table.keyColumns()));
      if (keys.add(key) || (!keysKept && sometimes(30))) {
        made.add(row);
      }
    }
  }

  private List<@Nullable String> row(Table table) {
    List<@Nullable String> row = new ArrayList<>();
    for (Column column : table.columns()) {
      row.add(value(column));
    }
    for (Reference reference : table.references()) {
      List<List<@Nullable String>> targets = rows.getOrDefault(reference.target(), List.of());
      boolean nullable = column(table, reference.columns().get(0)).nullable();
      boolean lost = !referencesKept && sometimes(12);
      boolean empty = nullable && sometimes(25);
      for (int i = 0; i < reference.columns().size(); i++) {
        int at = index(table, reference.columns().get(i));
        if (empty || (targets.isEmpty() && nullable)) {
          row.set(at, null);
        }
      }
      if (!empty && !lost && !targets.isEmpty()) {
        List<@Nullable String> target = targets.get(random.nextInt(targets.size()));
        for (int i = 0; i < reference.columns().size(); i++) {
          row.set(index(table, reference.columns().get(i)), target.get(i));
        }
      }
    }
    return row;
  }

  private static Column column(Table table, String name) {
    return table.columns().get(index(table, name));
  }

  private static int index(Table table, String name) {
    for (int i = 0; i < table.columns().size(); i++) {
      if (table.columns().get(i).name().equals(name)) {
        return i;
      }
    }
    throw new IllegalArgumentException(name);
  }

  private @Nullable String value(Column column) {
    if (column.nullable() && sometimes(25)) {
      return null;
    }
    int number = 1 + random.nextInt(most + SPARE);
    return switch (column.type()) {
      case "INTEGER" -> String.valueOf(number);
      case "DECIMAL(8,2)" -> number + "." + (random.nextBoolean() ? "50" : "25");
      case "DATE" -> "2025-0" + (1 + number % 9) + "-1" + number % 10;
      case "VARCHAR(4)" -> number % 2 == 0 ? "no" : "so";
      case "VARCHAR(8)" -> "k" + number;
      default -> (number % 3 == 0 ? "it''s " : "a ").replace("''", "'") + number;
    };
  }
}
