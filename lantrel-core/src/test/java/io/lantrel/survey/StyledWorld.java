package io.lantrel.survey;

import io.lantrel.Scratch;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * Fifty tables whose references no schema declares, in one style of names, with rows that keep
 * them; among their columns many whose values are keys elsewhere by mere chance.
 */
final class StyledWorld {

  private static final List<String> NOUNS =
      List.of(
          "station",
          "river",
          "reading",
          "warden",
          "species",
          "gauge",
          "boat",
          "bridge",
          "weir",
          "lake",
          "basin",
          "reach",
          "sample",
          "laboratory",
          "visit",
          "permit",
          "office",
          "region",
          "district",
          "branch",
          "sensor",
          "battery",
          "probe",
          "meadow",
          "ferry",
          "mooring",
          "lock",
          "pump",
          "alarm",
          "notice",
          "volunteer",
          "team",
          "shift",
          "tool",
          "repair",
          "supplier",
          "invoice",
          "payment",
          "budget",
          "gauge type",
          "boat trip",
          "water level",
          "flood zone",
          "sampling plan",
          "lab result",
          "fish ladder",
          "river mile",
          "permit holder",
          "repair order",
          "tide table");

  private static final List<String> ROLES = List.of("home", "former", "second", "deputy", "next");

  /** Columns that refer to nothing: name, type, and what their values are made of. */
  private static final List<String> OTHERS =
      List.of(
          "name",
          "amount",
          "started_on",
          "year",
          "position",
          "status",
          "note",
          "rank",
          "height_cm",
          "serial_no",
          "phone",
          "grade",
          "hours",
          "score");

  private final NameStyle style;
  private final boolean keys;
  private final Random random;
  private final List<Entity> entities = new ArrayList<>();
  private final Set<String> references = new HashSet<>();
  private final Set<String> follows = new HashSet<>();

  StyledWorld(NameStyle style, boolean keys, long seed) {
    this.style = style;
    this.keys = keys;
    this.random = new Random(seed * 31 + style.ordinal());
    make();
  }

  /** The references that hold, as {@code a.b → c.d}. */
  Set<String> references() {
    return references;
  }

  /** What holds besides, since a reference leads to a key that is itself one. */
  Set<String> follows() {
    return follows;
  }

  private static final class Entity {
    final List<String> words;
    final String shortName;
    final String table;
    final List<String> key = new ArrayList<>();
    final List<String> columns = new ArrayList<>();
    final List<String> types = new ArrayList<>();
    final List<List<String>> rows = new ArrayList<>();
    final List<Referring> referring = new ArrayList<>();

    /** */
    Entity(List<String> words, String shortName, String table) {
      this.words = words;
      this.shortName = shortName;
      this.table = table;
    }

    List<String> keyOf(int row) {
      return key.stream().map(each -> rows.get(row).get(columns.indexOf(each))).toList();
    }
  }

  private record Referring(List<String> columns, Entity to) {}

  /** Columns of a key that refer lead on to where they refer. */
  private void follow(Entity from, List<String> names, Entity to) {
    for (Referring next : to.referring) {
      if (to.key.containsAll(next.columns())) {
        List<String> on =
            next.columns().stream().map(each -> names.get(to.key.indexOf(each))).toList();
        follows.add(side(from.table, on) + " → " + side(next.to().table, next.to().key));
        follow(from, on, next.to());
      }
    }
  }

  private void make() {
    Set<String> shorts = new HashSet<>();
    List<String> nouns = new ArrayList<>(NOUNS);
    Collections.shuffle(nouns, random);
    for (String noun : nouns) {
      List<String> words = Arrays.asList(noun.split(" ", -1));
      Entity entity = new Entity(words, shortName(words, shorts), style.table(words));
      fill(entity);
      entities.add(entity);
    }
  }

  private static String shortName(List<String> words, Set<String> taken) {
    String joined = String.join("", words);
    String first =
        words.size() == 1 ? joined.substring(0, 2) : "" + joined.charAt(0) + words.get(1).charAt(0);
    for (int i = 2; !taken.add(first); i++) {
      first = joined.substring(0, 2) + joined.substring(i, i + 1);
    }
    return first;
  }

  private void fill(Entity entity) {
    int count = 8 + random.nextInt(90);
    IntStream.range(0, count).forEach(i -> entity.rows.add(new ArrayList<>()));
    boolean part = style == NameStyle.COMPOSITE && entities.size() > 3 && random.nextInt(3) > 0;
    String name = style.key(entity.words, entity.shortName);
    if (part) {
      Entity whole = entities.get(random.nextInt(entities.size()));
      refer(entity, whole, "", false);
      entity.key.addAll(entity.columns);
      // Each whole has parts 1, 2, 3 …
      List<String> seen = new ArrayList<>();
      List<String> numbers = new ArrayList<>();
      for (List<String> row : entity.rows) {
        String of = String.join("|", row);
        seen.add(of);
        numbers.add("" + seen.stream().filter(of::equals).count());
      }
      add(entity, name, "INTEGER", numbers);
    } else {
      int start = random.nextInt(4) == 0 ? 1000 : 1;
      String letters = entity.shortName.toUpperCase(Locale.ROOT);
      add(
          entity,
          name,
          style.isText() ? "VARCHAR(12)" : "INTEGER",
          IntStream.range(0, count)
              .mapToObj(i -> style.isText() ? letters + "-" + (100 + i) : "" + (start + i))
              .toList());
    }
    entity.key.add(name);
    List<String> others = new ArrayList<>(OTHERS.subList(1, OTHERS.size()));
    Collections.shuffle(others, random);
    other(entity, "name");
    others.subList(0, 2 + random.nextInt(4)).forEach(each -> other(entity, each));
    if (!entities.isEmpty()) {
      Set<Entity> targets = new HashSet<>();
      for (int i = random.nextInt(4); i > 0; i--) {
        Entity target = entities.get(random.nextInt(entities.size()));
        boolean again = !targets.add(target);
        String role =
            again || random.nextInt(5) == 0 ? ROLES.get(random.nextInt(ROLES.size())) : "";
        refer(entity, target, role, random.nextBoolean());
      }
    }
    if (entity.key.size() == 1 && random.nextInt(8) == 0) {
      refer(entity, entity, "parent", true);
    }
  }

  private void add(Entity entity, String name, String type, List<String> values) {
    entity.columns.add(name);
    entity.types.add(type);
    for (int i = 0; i < values.size(); i++) {
      entity.rows.get(i).add(values.get(i));
    }
  }

  private void refer(Entity from, Entity to, String role, boolean mayBeEmpty) {
    List<String> names = new ArrayList<>();
    for (String key : to.key) {
      boolean last = key.equals(to.key.get(to.key.size() - 1));
      String own = style.reference(from.words, from.shortName, to.words, to.shortName, role);
      names.add(last ? own : (role.isEmpty() ? "" : role + "_") + key);
    }
    if (names.stream().anyMatch(from.columns::contains)) {
      return;
    }
    List<List<String>> picked = new ArrayList<>();
    for (int i = 0; i < from.rows.size(); i++) {
      boolean own = from.equals(to);
      boolean empty = own ? i == 0 : mayBeEmpty && random.nextInt(6) == 0;
      int row = own ? random.nextInt(Math.max(1, i)) : random.nextInt(to.rows.size());
      picked.add(empty ? names.stream().map(each -> "").toList() : to.keyOf(row));
    }
    for (int k = 0; k < names.size(); k++) {
      int column = k;
      String type = to.types.get(to.columns.indexOf(to.key.get(k)));
      add(from, names.get(k), type, picked.stream().map(each -> each.get(column)).toList());
    }
    references.add(side(from.table, names) + " → " + side(to.table, to.key));
    from.referring.add(new Referring(names, to));
    follow(from, names, to);
  }

  private static String side(String table, List<String> columns) {
    return columns.size() == 1
        ? table + "." + columns.get(0)
        : table + "(" + String.join(", ", columns) + ")";
  }

  private void other(Entity entity, String name) {
    String type =
        switch (name) {
          case "name", "note", "status", "phone", "grade" -> "VARCHAR(30)";
          case "started_on" -> "DATE";
          default -> "INTEGER";
        };
    List<String> values = new ArrayList<>();
    for (int i = 0; i < entity.rows.size(); i++) {
      values.add(
          switch (name) {
            case "name" -> entity.words.get(0) + " " + (char) ('a' + i % 26) + i;
            case "note" -> random.nextBoolean() ? "" : "seen " + random.nextInt(5);
            case "status" -> List.of("new", "open", "done").get(random.nextInt(3));
            case "grade" -> List.of("A", "B", "C", "D").get(random.nextInt(4));
            case "phone" -> "0" + (100000 + random.nextInt(900000));
            case "started_on" -> "2026-0" + (1 + random.nextInt(9)) + "-1" + random.nextInt(9);
            case "year" -> "" + (1990 + random.nextInt(36));
            case "position" -> "" + (1 + i % 12);
            case "serial_no" -> "" + (40000 + 7 * i);
            case "height_cm" -> "" + (20 + random.nextInt(200));
            case "rank" -> "" + (1 + random.nextInt(5));
            default -> "" + (1 + random.nextInt(20));
          });
    }
    add(entity, style.column(name, entity.shortName), type, values);
  }

  /** Writes it as sample data. */
  Path folder() throws IOException {
    Path folder = Scratch.folder("styled");
    List<String> schema = new ArrayList<>();
    for (Entity each : entities) {
      List<String> parts = new ArrayList<>();
      for (int i = 0; i < each.columns.size(); i++) {
        parts.add(each.columns.get(i) + " " + each.types.get(i));
      }
      if (keys) {
        parts.add("PRIMARY KEY (" + String.join(", ", each.key) + ")");
      }
      schema.add("CREATE TABLE " + each.table + " (" + String.join(", ", parts) + ");");
      Files.writeString(
          folder.resolve(each.table + ".csv"),
          String.join(",", each.columns)
              + "\n"
              + each.rows.stream()
                  .map(row -> String.join(",", row) + "\n")
                  .collect(Collectors.joining()));
    }
    Files.writeString(folder.resolve("schema.sql"), String.join("\n", schema));
    return folder;
  }
}
