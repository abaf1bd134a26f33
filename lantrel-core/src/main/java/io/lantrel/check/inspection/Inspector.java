package io.lantrel.check.inspection;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Table;
import io.lantrel.check.CheckRules;
import io.lantrel.check.Inspection;
import io.lantrel.check.Kind;
import io.lantrel.check.inspection.Examination.Concluded;
import io.lantrel.engine.Database;
import io.lantrel.engine.DatabaseException;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Counting;
import io.lantrel.probe.Promises;
import io.lantrel.probe.Question;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.ParameterValues;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.Statement;
import io.lantrel.sql.tree.Query;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Inspects statements: asks all that is suspected of one in a single round, concludes, and asks for
 * the evidence while the repairs are tried.
 */
public final class Inspector {

  private final Catalog catalog;
  private final @Nullable Database database;
  private final ParameterValues values;
  private final CheckRules rules;

  /**
   * @param database where questions are asked; null if there are no rows: then nothing is run, and
   *     only what needs none is checked
   * @param values for the parameters of the statements
   * @param rules what the project wants beside the kinds that are always looked for
   */
  public Inspector(
      Catalog catalog, @Nullable Database database, ParameterValues values, CheckRules rules) {
    this.catalog = catalog;
    this.database = database;
    this.values = values;
    this.rules = rules;
  }

  /**
   * Inspects one statement of a text.
   *
   * @throws DatabaseException if the database fails; a query that it refuses is no failure
   */
  public Inspection inspect(SourceText source, Statement statement) {
    return database == null
        ? withoutRows(source, statement)
        : database.inSnapshot(() -> onRows(source, statement, database));
  }

  /**
   * Why a query that was stopped would never end, as its text tells or circles of the rows; empty
   * if nothing shows that.
   *
   * @throws DatabaseException if the database is lost
   */
  public Optional<String> endless(SourceText source, Statement statement) {
    Examination examination =
        new Examination(source, statement, catalog, Promises.KEYS, values, rules);
    List<Question<?>> precautions = examination.precautionQuestions();
    return examination.endless(
        database == null || precautions.isEmpty()
            ? new Answers()
            : new Asker(database).ask(precautions));
  }

  private Inspection withoutRows(SourceText source, Statement statement) {
    Examination examination =
        new Examination(source, statement, catalog, Promises.KEYS, values, rules);
    examination.concludeOwnLacks();
    examination.concludeWithoutRows();
    boolean joins = examination.blocks().stream().anyMatch(block -> !block.steps().isEmpty());
    List<String> remarks =
        joins && !examination.hasErrors()
            ? List.of(
                "there are no rows here, so what only rows can show of these kinds was not checked: "
                    + Arrays.stream(Kind.values())
                        .filter(kind -> kind.needs() == Kind.Needs.ROWS)
                        .map(Kind::id)
                        .collect(Collectors.joining(", ")))
            : List.of();
    Repairs repairs =
        new Repairs(source, statement, examination, catalog, null, Promises.KEYS, values, rules);
    return inspection(examination, repairs, null, remarks);
  }

  private Inspection onRows(SourceText source, Statement statement, Database rows) {
    Asker asker = new Asker(rows);
    Examination examination =
        new Examination(source, statement, catalog, Promises.KEYS, values, rules);
    Promises keys = Promises.KEYS;
    List<String> remarks = new ArrayList<>();
    String refused = null;
    boolean open = examination.openParameter().isPresent();
    Optional<Query> runnable = examination.runnable().filter(query -> !open);
    @Nullable String holder = holder(rows);
    if (runnable.isPresent()) {
      refused = refusal(runnable.get(), examination, rows);
    }
    if (refused != null || holder != null) {
      examination.concludeOwnLacks();
    }
    boolean untaken = refused != null && holder != null;
    if (untaken) {
      examination.unchecked().add(textAlone(holder, refused));
      refused = null;
    }
    if (open) {
      examination
          .openParameter()
          .ifPresent(each -> examination.unchecked().add(noValue(each.text())));
    }
    if (runnable.isEmpty() || refused != null || !examination.unchecked().isEmpty()) {
      examination.concludeWithoutRows();
      Repairs repairs =
          new Repairs(
              source,
              statement,
              examination,
              catalog,
              open || untaken ? null : asker,
              keys,
              values,
              rules);
      return inspection(examination, repairs, refused, remarks);
    }
    List<Question<?>> precautions = examination.precautionQuestions();
    if (!examination.mayBeRun(precautions.isEmpty() ? new Answers() : asker.ask(precautions))) {
      examination.unchecked().add("the query was not run, since it would not end");
      examination.concludeWithoutRows();
      Repairs repairs =
          new Repairs(source, statement, examination, catalog, null, keys, values, rules);
      return inspection(examination, repairs, null, remarks);
    }
    Promises.Test test = new Promises.Test(rows, examination.blocks());
    Map<Table, Question<Boolean>> filled = filled(examination.blocks(), rows);
    List<Question<?>> tests = new ArrayList<>(test.questions());
    tests.addAll(filled.values());
    // Few rows are looked at in one round, as if every key were kept.
    tests.addAll(rows.isSmall() ? examination.questions(true) : examination.lossTests());
    Answers tested = asker.ask(tests);
    keys = test.read(tested);
    Examination told =
        keys.isAll()
            ? examination
            : new Examination(source, statement, catalog, keys, values, rules);
    if (told != examination && holder != null) {
      told.concludeOwnLacks();
    }
    if (keys.isAll() && rows.isSmall()) {
      told.conclude(tested, true, holder);
    } else {
      if (keys.isAll()) {
        told.readLossTests(tested);
      }
      // What cannot fail is not run for its own sake: it may be dearer than all questions.
      boolean whole = rows.isSmall() || told.mayFail();
      told.conclude(asker.ask(told.questions(whole)), whole, holder);
    }
    filled.forEach(
        (table, asked) ->
            tested
                .ifAny(asked)
                .filter(any -> !any)
                .ifPresent(
                    none ->
                        remarks.add(
                            "the table "
                                + table.name()
                                + " has no rows here, so no row of it can show a mistake")));
    Repairs repairs = new Repairs(source, statement, told, catalog, asker, keys, values, rules);
    return inspection(told, repairs, null, remarks);
  }

  /** Who has the rows, if the queries are written for another engine. */
  private @Nullable String holder(Database rows) {
    return rows.dialect() == catalog.dialect() ? null : rows.engine();
  }

  private static String textAlone(@Nullable String holder, @Nullable String refused) {
    return holder
        + " has the rows here, and does not run it, so its text alone was checked: "
        + refused;
  }

  private static String noValue(String parameter) {
    return "the parameter "
        + parameter
        + " has no value here, so the query was not run; give it one to have the rows checked";
  }

  /** Why the database does not take the query; if it cannot even say, that is noted. */
  private static @Nullable String refusal(Query query, Examination examination, Database rows) {
    try {
      return rows.refusal(query).orElse(null);
    } catch (DatabaseException failure) {
      if (failure.isFatal()) {
        throw failure;
      }
      examination.unchecked().add("most was not checked: " + failure.getMessage());
      return null;
    }
  }

  /** Over a table without rows nothing can show, which is not the same as nothing being wrong. */
  private static Map<Table, Question<Boolean>> filled(List<QueryBlock> blocks, Database rows) {
    Map<Table, Question<Boolean>> questions = new LinkedHashMap<>();
    blocks.stream()
        .flatMap(block -> block.uses().stream())
        .flatMap(use -> use.table().stream())
        .forEach(
            table -> questions.computeIfAbsent(table, key -> Counting.anyRow(key, rows.dialect())));
    return questions;
  }

  private Inspection inspection(
      Examination examination, Repairs repairs, @Nullable String refused, List<String> remarks) {
    List<Concluded> concluded =
        examination.concluded().stream()
            .sorted(Comparator.comparingInt(each -> each.place().start()))
            .toList();
    return new Inspection(
        examination.isUnderstood(),
        refused == null ? repairs.findings(concluded) : repairs.untried(concluded),
        Optional.ofNullable(refused),
        examination.unchecked(),
        remarks,
        unrelated(examination),
        List.of());
  }

  /** The tables of a statement that joins some, if the catalog has no reference of any of them. */
  private List<Table> unrelated(Examination examination) {
    List<QueryBlock> blocks = examination.blocks();
    Set<Table> tables = new LinkedHashSet<>();
    blocks.stream()
        .flatMap(block -> block.uses().stream())
        .forEach(use -> use.table().ifPresent(tables::add));
    boolean joins =
        blocks.stream()
            .anyMatch(
                block -> block.uses().stream().filter(use -> use.table().isPresent()).count() > 1);
    boolean related =
        catalog.references().stream()
            .anyMatch(each -> tables.contains(each.from()) || tables.contains(each.to()));
    return joins && !related ? List.copyOf(tables) : List.of();
  }
}
