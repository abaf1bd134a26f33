package io.lantrel.resolve;

import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.tree.Identifier;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The columns of an item of FROM. Its table uses stand in a row in the block, so that a long chain
 * of joins need not copy them at each step; only merged columns make a list of their own.
 */
final class Columns {

  /**
   * A column that can be named without its table.
   *
   * @param name its name
   * @param binding what it stands for: a column, or the merged column of USING
   * @param columns the columns behind it
   * @param isMerged whether USING or NATURAL made it of two
   */
  record Visible(String name, Binding binding, List<UseColumn> columns, boolean isMerged) {
    static Visible of(UseColumn column) {
      return new Visible(column.name(), new Binding.ToColumn(column), List.of(column), false);
    }

    /** Whether the name alone could mean several columns, although they are shown as one. */
    boolean isAmbiguous() {
      return columns.size() > 1 && binding instanceof Binding.ToColumn;
    }

    Visible as(String other) {
      return new Visible(other, binding, columns, isMerged);
    }
  }

  private final QueryBlock block;
  private final int from;
  private final int to;
  private final @Nullable List<Visible> list;
  private final Map<String, List<Visible>> joinNames;
  private final Set<TableUse> hidden;

  private Columns(
      QueryBlock block,
      int from,
      int to,
      @Nullable List<Visible> list,
      Map<String, List<Visible>> joinNames,
      Set<TableUse> hidden) {
    this.block = block;
    this.from = from;
    this.to = to;
    this.list = list;
    this.joinNames = joinNames;
    this.hidden = hidden;
  }

  /** All columns of the table uses from one index up to another, which is not included. */
  static Columns of(QueryBlock block, int from, int to) {
    return new Columns(block, from, to, null, Map.of(), Set.of());
  }

  /** The columns of both, the left ones first. */
  Columns and(Columns right) {
    List<Visible> both = null;
    if (list != null || right.list != null) {
      both = new ArrayList<>(all());
      both.addAll(right.all());
    }
    return together(right, both);
  }

  private Columns together(Columns right, @Nullable List<Visible> visible) {
    Map<String, List<Visible>> names = joinNames;
    if (!right.joinNames.isEmpty()) {
      names = new HashMap<>(joinNames);
      names.putAll(right.joinNames);
    }
    Set<TableUse> hiding = hidden;
    if (!right.hidden.isEmpty()) {
      hiding = new HashSet<>(hidden);
      hiding.addAll(right.hidden);
    }
    return new Columns(block, from, right.to, visible, names, hiding);
  }

  /** These alone; the table uses of the right side are there, but cannot be named. */
  Columns hiding(Columns right) {
    Set<TableUse> hiding = new HashSet<>(hidden);
    hiding.addAll(right.uses());
    return new Columns(block, from, right.to, all(), joinNames, hiding);
  }

  /**
   * Merged columns come first, then the rest of the left side, then of the right (7.10); in some
   * products each stays where the left side has it.
   */
  Columns merged(Columns right, List<Visible> merged) {
    Map<String, Visible> byName = new HashMap<>();
    merged.forEach(each -> byName.putIfAbsent(key(each.name()), each));
    boolean inPlace = block.dialect().has(Rule.MERGED_COLUMNS_STAY_IN_PLACE);
    List<Visible> all = new ArrayList<>(inPlace ? List.of() : merged);
    for (Visible each : all()) {
      Visible one = byName.get(key(each.name()));
      if (one == null || inPlace) {
        all.add(one == null ? each : one);
      }
    }
    right.all().stream().filter(each -> !byName.containsKey(key(each.name()))).forEach(all::add);
    return together(right, all);
  }

  /** The same, with a name for some of them; its table uses can still be named. */
  Columns named(Identifier name, List<Visible> columns) {
    Map<String, List<Visible>> names = new HashMap<>(joinNames);
    names.put(block.dialect().key(name), List.copyOf(columns));
    return new Columns(block, from, to, list, names, hidden);
  }

  /** The same under one name; its table uses can no longer be named. */
  Columns renamed(Identifier name, List<Identifier> columns) {
    List<Visible> all = new ArrayList<>(all());
    for (int i = 0; i < columns.size() && i < all.size(); i++) {
      all.set(i, all.get(i).as(block.dialect().stored(columns.get(i))));
    }
    Map<String, List<Visible>> names = Map.of(block.dialect().key(name), List.copyOf(all));
    return new Columns(block, from, to, all, names, new HashSet<>(uses()));
  }

  private String key(String name) {
    return block.dialect().key(name);
  }

  /** The table uses, also those that a name hides. */
  List<TableUse> uses() {
    return block.uses().subList(from, to);
  }

  /** The columns that can be named without their table, in the order of {@code *}. */
  List<Visible> all() {
    return list != null
        ? list
        : uses().stream().flatMap(use -> use.columns().stream()).map(Visible::of).toList();
  }

  /** Those of a name. */
  List<Visible> find(Identifier name) {
    String key = block.dialect().key(name);
    if (list != null) {
      List<Visible> found = list.stream().filter(each -> key(each.name()).equals(key)).toList();
      return found.size() > 1 ? preferred(found) : found;
    }
    return block.columnsNamed(key).stream()
        .filter(column -> from <= column.use().index() && column.use().index() < to)
        .map(Visible::of)
        .toList();
  }

  private List<Visible> preferred(List<Visible> found) {
    List<Visible> merged = found.stream().filter(Visible::isMerged).toList();
    return merged.size() == 1 && block.dialect().has(Rule.MERGED_NAMES_COME_FIRST) ? merged : found;
  }

  /** The columns of a join that goes by this name. */
  Optional<List<Visible>> join(Identifier name) {
    return Optional.ofNullable(joinNames.get(block.dialect().key(name)));
  }

  /** The table use that can be called by this name. */
  Optional<TableUse> use(Identifier name) {
    return block.usesNamed(block.catalog().tableKey(block.dialect().stored(name))).stream()
        .filter(use -> from <= use.index() && use.index() < to && !hidden.contains(use))
        .findFirst();
  }

  boolean has(TableUse use) {
    return from <= use.index() && use.index() < to && block.uses().get(use.index()) == use;
  }
}
