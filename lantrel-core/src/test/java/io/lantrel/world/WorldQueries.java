package io.lantrel.world;

import io.lantrel.sql.Dialect;
import io.lantrel.world.World.Reference;
import io.lantrel.world.World.Table;
import io.lantrel.world.WorldQuery.Head;
import io.lantrel.world.WorldQuery.Step;
import io.lantrel.world.WorldQuery.Term;
import io.lantrel.world.WorldQuery.Use;
import io.lantrel.world.WorldQuery.Wrap;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/** Writes queries over a world: joins along its references, and all that can be around them. */
public final class WorldQueries {

  /** What is shown in every world. */
  private static final List<Head> HEADS =
      List.of(Head.PLAIN, Head.DISTINCT, Head.WINDOW, Head.SCALAR, Head.GROUPED, Head.HAVING);

  private final World world;
  private final Random random;

  /** Apart from the other, so that what is written another way changes nothing else of a query. */
  private final Random words;

  private final Dialect dialect;
  private final boolean inManyForms;

  public WorldQueries(World world, long seed, Dialect dialect) {
    this(world, seed, dialect, false);
  }

  /**
   * @param inManyForms whether there are also {@code *}, texts that are put together, and the same
   *     condition written in several ways
   */
  public WorldQueries(World world, long seed, Dialect dialect, boolean inManyForms) {
    this.world = world;
    this.random = new Random(seed);
    this.words = new Random(seed);
    this.dialect = dialect;
    this.inManyForms = inManyForms;
  }

  private boolean sometimes(int percent) {
    return random.nextInt(100) < percent;
  }

  private <T> T oneOf(List<T> values) {
    return values.get(random.nextInt(values.size()));
  }

  public WorldQuery query() {
    Use first = new Use(oneOf(world.tables()), "a");
    List<Use> uses = new ArrayList<>(List.of(first));
    List<Step> steps = new ArrayList<>();
    boolean commas = sometimes(15);
    int wanted = 1 + random.nextInt(4);
    for (int i = 0; i < wanted; i++) {
      steps.add(step(uses, commas));
      uses.add(steps.get(i).use());
    }
    List<Term> where = new ArrayList<>();
    while (sometimes(40)) {
      where.add(term(uses));
    }
    List<Wrap> wraps = sometimes(35) ? List.of(oneOf(List.of(Wrap.values()))) : List.of();
    return new WorldQuery(first, steps, where, head(wraps.isEmpty()), wraps);
  }

  private Head head(boolean alone) {
    Head usual = oneOf(HEADS);
    if (!inManyForms || sometimes(50)) {
      return usual;
    }
    return alone && sometimes(50)
        ? Head.STAR
        : dialect == Dialect.MARIADB ? Head.CONCAT : Head.BARS;
  }

  // ---- joins ----

  private Step step(List<Use> uses, boolean commas) {
    String alias = String.valueOf((char) ('a' + uses.size()));
    List<Way> ways = new ArrayList<>();
    for (Use use : uses) {
      for (Reference each : world.references()) {
        if (each.from().equals(use.table().name())) {
          ways.add(new Way(use, each, true));
        }
        if (each.target().equals(use.table().name())) {
          ways.add(new Way(use, each, false));
        }
      }
    }
    if (ways.isEmpty() || sometimes(5)) {
      Use right = new Use(oneOf(world.tables()), alias);
      return commas ? new Step(",", right, "1 = 1") : new Step("CROSS JOIN", right, "");
    }
    Way way = oneOf(ways);
    Reference reference = way.reference();
    Table table = world.table(way.up() ? reference.target() : reference.from());
    Use right = new Use(table, alias);
    String condition =
        way.up()
            ? reference.condition(way.use().alias(), alias)
            : reference.condition(alias, way.use().alias());
    if (commas) {
      return new Step(",", right, disguised(condition));
    }
    boolean alone = uses.size() == 1;
    if (alone && reference.columns().equals(reference.targetColumns()) && sometimes(20)) {
      String columns = String.join(", ", reference.columns());
      boolean natural = sometimes(40) && common(first(uses), table).equals(reference.columns());
      return natural
          ? new Step("NATURAL " + inner(), right, "")
          : new Step(inner(), right, "USING (" + columns + ")");
    }
    String further = sometimes(15) ? " AND " + simple(right) : "";
    String kind = kind();
    // PostgreSQL has FULL JOIN for plain equalities only.
    String on = kind.startsWith("FULL") ? condition : disguised(condition);
    return new Step(kind, right, "ON " + on + further);
  }

  /** Sometimes another way to say that columns are equal. */
  private String disguised(String condition) {
    if (words.nextInt(100) >= 15) {
      return condition;
    }
    String text = dialect == Dialect.MARIADB ? "CHAR(40)" : "VARCHAR(40)";
    return switch (words.nextInt(5)) {
      case 0 -> each(condition, "CAST(%1$s AS " + text + ") = CAST(%2$s AS " + text + ")");
      case 1 -> each(condition, "NOT (%s <> %s)");
      case 2 -> each(condition, "%s IN (%s)");
      case 3 -> each(condition, "(%s, 1) = (%s, 1)");
      default ->
          each(condition, dialect == Dialect.MARIADB ? "%s <=> %s" : "%s IS NOT DISTINCT FROM %s");
    };
  }

  private static String each(String condition, String equality) {
    return Pattern.compile(" AND ")
        .splitAsStream(condition)
        .map(each -> String.format(equality, (Object[]) each.split(" = ", 2)))
        .collect(Collectors.joining(" AND "));
  }

  private static Table first(List<Use> uses) {
    return uses.get(0).table();
  }

  private static List<String> common(Table some, Table other) {
    List<String> names = other.columns().stream().map(World.Column::name).toList();
    return some.columns().stream().map(World.Column::name).filter(names::contains).toList();
  }

  /** From a table use along a reference. */
  private record Way(Use use, Reference reference, boolean up) {}

  private String inner() {
    return sometimes(50) ? "JOIN" : "LEFT JOIN";
  }

  private String kind() {
    boolean full = dialect != Dialect.MARIADB && dialect != Dialect.H2;
    return switch (random.nextInt(8)) {
      case 0 -> "RIGHT JOIN";
      case 1 -> full ? "FULL JOIN" : "LEFT JOIN";
      case 2, 3, 4 -> "LEFT JOIN";
      default -> "JOIN";
    };
  }

  // ---- conditions ----

  private Term term(List<Use> uses) {
    Use use = oneOf(uses);
    if (inManyForms && sometimes(40)) {
      return new Term(inOtherWords(use), Set.of(use.alias()));
    }
    String text =
        switch (random.nextInt(8)) {
          case 7 -> use.alias() + "." + use.table().name() + "_size > :least";
          case 0 -> exists(use, "EXISTS");
          case 1 -> exists(use, "NOT EXISTS");
          case 2 -> in(use);
          case 3 -> use.alias() + "." + use.table().label() + " IS NOT NULL";
          case 4 -> "(" + simple(use) + " OR " + simple(use) + ")";
          default -> simple(use);
        };
    return new Term(text, Set.of(use.alias()));
  }

  private String simple(Use use) {
    String size = use.alias() + "." + use.table().name() + "_size";
    return switch (random.nextInt(4)) {
      case 0 -> size + " > " + random.nextInt(9);
      case 1 -> size + " IS NULL";
      case 2 -> use.alias() + "." + use.table().label() + " LIKE 'a%'";
      default -> "COALESCE(" + size + ", 0) < " + (2 + random.nextInt(9));
    };
  }

  private String inOtherWords(Use use) {
    String size = use.alias() + "." + use.table().name() + "_size";
    return switch (random.nextInt(4)) {
      case 0 -> "(" + size + " = 2 OR " + size + " = 5 OR 7 = " + size + ")";
      case 1 -> "(" + size + " IS NULL OR " + size + " = 3 OR " + size + " IN (4, 6))";
      case 2 -> size + " NOT" + in(use).substring(size.length());
      default -> exists(use, sometimes(50) ? "EXISTS" : "NOT EXISTS");
    };
  }

  private String exists(Use use, String words) {
    List<Reference> to =
        world.references().stream()
            .filter(each -> each.target().equals(use.table().name()))
            .toList();
    if (to.isEmpty()) {
      return simple(use);
    }
    Reference reference = oneOf(to);
    return words
        + " (SELECT 1 FROM "
        + reference.from()
        + " AS e WHERE "
        + reference.condition("e", use.alias())
        + ")";
  }

  private String in(Use use) {
    String size = use.table().name() + "_size";
    return use.alias()
        + "."
        + size
        + " IN (SELECT i."
        + size
        + " FROM "
        + use.table().name()
        + " AS i WHERE i."
        + size
        + " > 2)";
  }
}
