package io.lantrel.sample.asked;

import io.lantrel.catalog.Table;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The rows that are taken so far, each once. */
final class KeptRows {

  private final Map<Table, Map<List<@Nullable String>, Copies>> rows = new LinkedHashMap<>();

  /** A row, and how often it is taken: a table without a key can hold it twice. */
  private record Copies(List<@Nullable String> row, int number) {}

  KeptRows copy() {
    KeptRows copy = new KeptRows();
    rows.forEach((table, all) -> copy.rows.put(table, new LinkedHashMap<>(all)));
    return copy;
  }

  /** Takes a row; whether it is new. */
  boolean add(TableRows of, List<@Nullable String> row) {
    return add(of, row, 1);
  }

  /** Takes a row several times. */
  boolean add(TableRows of, List<@Nullable String> row, int number) {
    if (has(of, row, number)) {
      return false;
    }
    rows.computeIfAbsent(of.table(), key -> new LinkedHashMap<>())
        .put(identity(of, row), new Copies(row, number));
    return true;
  }

  /** Whether a row is taken so often. */
  boolean has(TableRows of, List<@Nullable String> row, int number) {
    Copies there = rows.getOrDefault(of.table(), Map.of()).get(identity(of, row));
    return there != null && there.number() >= number;
  }

  private static List<@Nullable String> identity(TableRows of, List<@Nullable String> row) {
    List<@Nullable String> identity = new ArrayList<>();
    of.identity().forEach(name -> identity.add(row.get(of.position(name))));
    return identity;
  }

  /** Its rows, each once. */
  Collection<List<@Nullable String>> of(Table table) {
    return rows.getOrDefault(table, Map.of()).values().stream().map(Copies::row).toList();
  }

  /** Its rows, as often as they are taken. */
  List<List<@Nullable String>> all(Table table) {
    List<List<@Nullable String>> all = new ArrayList<>();
    for (Copies each : rows.getOrDefault(table, Map.of()).values()) {
      for (int i = 0; i < each.number(); i++) {
        all.add(each.row());
      }
    }
    return all;
  }

  int size(Table table) {
    return rows.getOrDefault(table, Map.of()).values().stream().mapToInt(Copies::number).sum();
  }

  int size() {
    return rows.keySet().stream().mapToInt(this::size).sum();
  }
}
