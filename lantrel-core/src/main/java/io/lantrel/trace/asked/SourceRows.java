package io.lantrel.trace.asked;

import io.lantrel.engine.Database;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.trace.Answer.Source;
import io.lantrel.trace.Answer.TracedValue;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The rows that a row of a query was put together from. The row that is meant is a member of WITH;
 * the rows of the block, each with what it shows, are joined to it by all columns of the result. So
 * the engine itself puts the sources together again: what is told are rows that give that row.
 */
final class SourceRows {

  /** Deeper queries in FROM are not gone into. */
  private static final int DEEPEST = 16;

  /** So many queries in FROM are gone into at most: each costs a statement. */
  private static final int MOST_WITHIN = 30;

  /** So many rows are looked through where their values cannot be compared by the engine. */
  private static final int LOOKED_THROUGH = 1_000;

  /** What the row that is meant is called, with the depth. */
  static final String WANTED = "lantrel_wanted";

  private final Database database;
  private final int most;
  private final List<QueryBlock> blocks;

  private int within;

  /**
   * @param blocks all of the statement
   * @param most how many rows of each group are told at most
   */
  SourceRows(Database database, List<QueryBlock> blocks, int most) {
    this.database = database;
    this.blocks = blocks;
    this.most = most;
  }

  /**
   * What was found.
   *
   * @param sources the rows
   * @param sentences what else is to be known: what went into an aggregate, how many rows there are
   */
  record Found(List<Source> sources, List<String> sentences) {}

  /**
   * A row of a query: its name in WITH, with columns c0, c1…
   *
   * @param constants its values, each empty if it cannot be written; none to go by the name. With
   *     them an engine need not work out the row once more, and can look at few rows only
   * @param told the values that no constant stands for, as texts, by their place
   */
  record Wanted(
      List<CommonTable> with,
      boolean recursive,
      String name,
      List<Optional<Expression>> constants,
      Map<Integer, String> told) {

    /**
     * That of the first of some rows.
     *
     * @param places the columns that the row is made of
     */
    static Wanted of(
        List<CommonTable> with, boolean recursive, String name, Rows rows, List<Integer> places) {
      List<Optional<Expression>> constants = new ArrayList<>();
      Map<Integer, String> told = new HashMap<>();
      for (int place : places) {
        Optional<Expression> constant = Constants.inFirst(rows, place);
        Object value = rows.rows().get(0).get(place);
        if (constant.isEmpty() && value != null) {
          told.put(constants.size(), ValueText.of(value));
        }
        constants.add(constant);
      }
      return new Wanted(with, recursive, name, constants, told);
    }

    boolean isByName() {
      return constants.stream().noneMatch(Optional::isPresent);
    }

    /** The same by its name alone, which means just that row in every engine. */
    Wanted byName() {
      return new Wanted(with, recursive, name, List.of(), told);
    }
  }

  /**
   * The sources of a row of the whole query. They are looked at once more before they are told:
   * what they give must be that row.
   *
   * @param values what the row shows
   */
  Found of(ResolvedQuery query, Wanted wanted, List<TracedValue> values) {
    return of(query, wanted, values.stream().map(TracedValue::value).toList(), 0);
  }

  /**
   * The sources of a row of a query, in each of its parts that gives it.
   *
   * @param values what it shows, to be compared; empty if it is not known
   */
  private Found of(ResolvedQuery query, Wanted wanted, List<@Nullable String> values, int depth) {
    List<Source> sources = new ArrayList<>();
    List<String> sentences = new ArrayList<>();
    for (QueryBlock block : query.parts()) {
      if (block.isCorrelated()) {
        sentences.add("What depends on rows outside is not followed.");
        continue;
      }
      ofBlock(query, block, wanted, values, depth, sources, sentences);
    }
    return new Found(sources, sentences.stream().distinct().toList());
  }

  private void ofBlock(
      ResolvedQuery query,
      QueryBlock block,
      Wanted wanted,
      List<@Nullable String> values,
      int depth,
      List<Source> sources,
      List<String> sentences) {
    if (block.uses().isEmpty()) {
      return;
    }
    Shown shown = new Shown(block, depth);
    Rows all = rows(shown, query.parts().size() > 1 ? wanted.byName() : wanted);
    Rows rows = values.isEmpty() ? all : all.where(row -> shown.gives(row, values));
    if (rows.size() == 0 && all.size() > 0) {
      return;
    }
    int count = Math.min(rows.size(), most);
    SubqueryRows subqueries = new SubqueryRows(database, most, blocks);
    for (TableUse use : block.uses()) {
      Set<Source> ofUse = new LinkedHashSet<>();
      for (int i = 0; i < count; i++) {
        ofUse.add(shown.source(use, rows.rows().get(i)));
      }
      for (Source source : ofUse) {
        boolean first = source.equals(ofUse.iterator().next()) && source.filled().isEmpty();
        if (!first) {
          sources.add(source);
        } else if (use.isDependent()) {
          Found found = subqueries.ofLateral(block, use, shown.row(rows));
          sentences.addAll(found.sentences());
          sources.add(source.withSources(found.sources()));
        } else {
          Wanted inner = shown.wanted(wanted, use, depth, rows);
          sources.add(within(source, use, query, inner, depth, sentences));
        }
      }
    }
    if (count > 0) {
      boolean whole = depth == 0 && query.parts().size() == 1 && !block.select().distinct();
      if (whole && !block.isGrouped() && rows.size() > 1 && rows.size() <= most) {
        sentences.add(
            Words.rows(rows.size())
                + " of the result look just like it; the rows behind "
                + (rows.size() == 2 ? "both" : "all")
                + " are shown.");
      }
      sentences.addAll(shown.whyFilled(rows, database));
      Found found = subqueries.of(block, shown.row(rows));
      sources.addAll(found.sources());
      sentences.addAll(found.sentences());
    }
    if (rows.size() > most) {
      sentences.add(
          "It was put together from more than "
              + most
              + " rows; the first "
              + most
              + " are shown.");
    }
    if (count > 0 && rows.size() <= most) {
      sentences.addAll(shown.aggregates(rows));
    }
  }

  /**
   * First by constants, then by name: a constant need not be equal to the value that it was written
   * for, as in a type of its own, and may be refused beside it.
   */
  private Rows rows(Shown shown, Wanted wanted) {
    if (!wanted.isByName()) {
      try {
        int limit = wanted.told().isEmpty() ? most + 1 : LOOKED_THROUGH;
        Rows rows =
            database
                .ask(shown.query(wanted, limit))
                .where(row -> shown.tells(row, wanted.told(), place -> true));
        if (rows.size() > 0) {
          return rows;
        }
      } catch (DatabaseException refused) {
        if (refused.isFatal()) {
          throw refused;
        }
      }
    }
    int limit =
        wanted.told().keySet().stream().allMatch(shown::isCompared) ? most + 1 : LOOKED_THROUGH;
    return database
        .ask(shown.query(wanted.byName(), limit))
        .where(row -> shown.tells(row, wanted.told(), place -> !shown.isCompared(place)));
  }

  /** A row of a query in FROM with the rows that it was put together from itself. */
  private Source within(
      Source source,
      TableUse use,
      ResolvedQuery query,
      Wanted wanted,
      int depth,
      List<String> sentences) {
    // The finished recursion stands for its rows so far: the row before is one of its rows too.
    Optional<ResolvedQuery> inner = use.isOwnRecursion() ? Optional.of(query) : use.queryOfText();
    if (inner.isEmpty() || depth >= DEEPEST) {
      return source;
    }
    if (++within > MOST_WITHIN) {
      sentences.add("Of the queries in FROM only the first " + MOST_WITHIN + " were gone into.");
      return source;
    }
    try {
      Found found = of(inner.get(), wanted, List.of(), depth + 1);
      sentences.addAll(found.sentences());
      return source.withSources(found.sources());
    } catch (DatabaseException failure) {
      if (failure.isFatal()) {
        throw failure;
      }
      sentences.add("The rows within " + use.name() + " were not got: " + failure.getMessage());
      return source;
    }
  }
}
