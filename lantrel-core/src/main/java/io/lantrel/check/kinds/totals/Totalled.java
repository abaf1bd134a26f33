package io.lantrel.check.kinds.totals;

import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.Case;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.words.Words;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * An aggregate that minds how often a row comes, and the table whose rows it is about: of the
 * tables that its value mentions, the one whose row fixes those of the others, as a line of an
 * order fixes the article with its price. Of a value that no one row fixes nothing is claimed.
 *
 * @param call the aggregate
 * @param value what is put together
 * @param condition the rows of which it is, from FILTER or CASE; null for all
 * @param use the table use
 */
record Totalled(FunctionCall call, Expression value, @Nullable Expression condition, TableUse use) {

  private static final Set<String> NUMBERS = Set.of("sum", "avg", "count");
  private static final Set<String> LISTS =
      Set.of("string_agg", "listagg", "group_concat", "array_agg", "list", "json_arrayagg");

  /** Words of a heading that say that something is counted, not what. */
  private static final Set<String> COUNTING =
      Set.of("n", "nr", "no", "num", "number", "of", "count", "cnt", "total", "the", "all");

  /** Of an aggregate with a value; empty for others. */
  static Optional<Totalled> of(FunctionCall call, QueryBlock block) {
    boolean minds =
        (NUMBERS.contains(call.key()) && call.arguments().size() == 1)
            || (LISTS.contains(call.key()) && !call.arguments().isEmpty());
    if (!minds || call.star()) {
      return Optional.empty();
    }
    Expression argument = call.arguments().get(0);
    Optional<Chosen> chosen = chosen(argument, call.key().equals("sum"));
    Expression value = chosen.map(Chosen::value).orElse(argument);
    Expression when = chosen.map(Chosen::when).orElse(null);
    Set<TableUse> uses = block.mentioned(value);
    return deciding(uses.isEmpty() ? block.mentioned(argument) : uses, block)
        .filter(use -> !isMeanOfOne(call, use))
        .map(use -> new Totalled(call, value, both(call.filter(), when), use));
  }

  /** {@code COUNT(*)}, over a window or not, under a heading that names one of the tables. */
  static Optional<Totalled> ofHeading(OutputColumn output, QueryBlock block) {
    if (!(output.value() instanceof FunctionCall call) || !call.star() || call.filter() != null) {
      return Optional.empty();
    }
    List<TableUse> named =
        block.uses().stream().filter(use -> isNamed(output, use.tableName())).toList();
    return named.size() == 1
        ? Optional.of(new Totalled(call, Sql.number(1), null, named.get(0)))
        : Optional.empty();
  }

  /** Whether a heading has the name of a table in the plural: {@code beds_used}. */
  static boolean speaksOf(OutputColumn output, String table) {
    String heading = "_" + output.name().toLowerCase(Locale.ROOT).replace(' ', '_') + "_";
    String rows = Words.plural(table.toLowerCase(Locale.ROOT)).toLowerCase(Locale.ROOT);
    return isNamed(output, table) || heading.contains("_" + rows.replace(' ', '_') + "_");
  }

  /** Whether a heading says that rows of a table are counted. */
  static boolean isNamed(OutputColumn output, String table) {
    String heading =
        Arrays.stream(output.name().toLowerCase(Locale.ROOT).split("[_ ]+", -1))
            .filter(word -> !COUNTING.contains(word))
            .collect(Collectors.joining("_"));
    String word = table.toLowerCase(Locale.ROOT);
    return heading.equals(word) || heading.equals(Words.plural(word).toLowerCase(Locale.ROOT));
  }

  /** The one use whose row fixes the rows of all. */
  static Optional<TableUse> deciding(Set<TableUse> uses, QueryBlock block) {
    return uses.size() < 2
        ? uses.stream().findFirst()
        : uses.stream().filter(use -> decidedBy(use, block).containsAll(uses)).findFirst();
  }

  /**
   * The table uses whose row is fixed as soon as that of this one is, itself too: in the rows that
   * have it, where the outer joins that may miss it found a partner.
   */
  static Set<TableUse> decidedBy(TableUse use, QueryBlock block) {
    Set<UseColumn> columns = new HashSet<>(use.columns());
    for (JoinStep step : block.stepsThatFill(use)) {
      for (Conjunct conjunct : step.conjuncts()) {
        conjunct
            .equality()
            .filter(pair -> columns.contains(pair.left()) || columns.contains(pair.right()))
            .ifPresent(pair -> columns.addAll(List.of(pair.left(), pair.right())));
      }
    }
    return Stream.concat(Stream.of(use), block.determinedBy(columns).stream())
        .collect(Collectors.toSet());
  }

  /** However often the only row of a table is counted, the mean is its value. */
  private static boolean isMeanOfOne(FunctionCall call, TableUse use) {
    return call.key().equals("avg") && use.keys().stream().anyMatch(key -> key.columns().isEmpty());
  }

  /** What {@code CASE WHEN … THEN … [ELSE 0] END} gives, and when. */
  private record Chosen(Expression when, Expression value) {}

  private static Optional<Chosen> chosen(Expression argument, boolean summed) {
    if (!(argument instanceof Case choice) || choice.whens().size() != 1) {
      return Optional.empty();
    }
    Expression otherwise = choice.otherwise();
    if (otherwise != null && !Literal.isNull(otherwise) && !(summed && isZero(otherwise))) {
      return Optional.empty();
    }
    Value.When only = choice.whens().get(0);
    Expression when =
        choice.operand() == null ? only.when() : Sql.equal(choice.operand(), only.when());
    return Optional.of(new Chosen(when, only.then()));
  }

  private static boolean isZero(Expression value) {
    return value instanceof Literal literal && literal.text().equals("0");
  }

  private static @Nullable Expression both(@Nullable Expression one, @Nullable Expression other) {
    if (one == null || other == null) {
      return one == null ? other : one;
    }
    return Sql.all(List.of(one, other));
  }

  boolean isList() {
    return LISTS.contains(call.key());
  }

  /** Whether rows are counted or listed, not values summed up. */
  boolean isCount() {
    return isList() || call.key().equals("count");
  }
}
