package io.lantrel.claim.kinds;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** The values of some columns are a key of a table, wherever none of them is NULL. */
final class Refers implements Meaning {

  private static final String TABLE = SampleData.RESERVED + "table";

  private final List<Integer> positions;
  private final Table table;
  private final Key key;
  private final String words;

  Refers(List<Integer> positions, Table table, Key key, String words) {
    this.positions = List.copyOf(positions);
    this.table = table;
    this.key = key;
    this.words = words;
  }

  @Override
  public boolean follows(Resolution resolution) {
    Optional<QueryBlock> block = resolution.result().block();
    return block.isPresent() && follows(block.get(), resolution.root().catalog());
  }

  private boolean follows(QueryBlock block, Catalog catalog) {
    List<List<UseColumn>> chains = new ArrayList<>();
    for (int position : positions) {
      Optional<UseColumn> column = block.column(block.outputs().get(position).value());
      if (column.isEmpty()) {
        return false;
      }
      chains.add(
          Origins.sameAs(column.get(), block).stream()
              .flatMap(each -> Origins.of(each).stream())
              .toList());
    }
    return chains.get(0).stream()
        .map(UseColumn::use)
        .anyMatch(use -> isKey(use, chains) || refers(use, chains, catalog));
  }

  private boolean isKey(TableUse use, List<List<UseColumn>> chains) {
    return use.table().filter(table::equals).isPresent() && are(use, chains, key.columns());
  }

  private boolean refers(TableUse use, List<List<UseColumn>> chains, Catalog catalog) {
    return catalog.references().stream()
        .filter(each -> use.table().filter(each.from()::equals).isPresent())
        .filter(each -> each.to().equals(table))
        .filter(each -> each.toColumns().size() == key.columns().size())
        .filter(each -> each.toColumns().containsAll(key.columns()))
        .anyMatch(each -> are(use, chains, inOrder(each)));
  }

  private List<String> inOrder(Reference reference) {
    return key.columns().stream()
        .map(column -> reference.fromColumns().get(reference.toColumns().indexOf(column)))
        .toList();
  }

  private static boolean are(TableUse use, List<List<UseColumn>> chains, List<String> columns) {
    for (int i = 0; i < columns.size(); i++) {
      String wanted = columns.get(i);
      if (chains.get(i).stream()
          .noneMatch(each -> each.use() == use && each.tableColumn().equals(wanted))) {
        return false;
      }
    }
    return true;
  }

  private Expression lost(ResultRows rows) {
    List<Expression> conditions = new ArrayList<>();
    List<Expression> equal = new ArrayList<>();
    for (int i = 0; i < positions.size(); i++) {
      Expression value = ResultRows.column(positions.get(i));
      conditions.add(Sql.isNotNull(value));
      equal.add(Sql.equal(Sql.column(TABLE, key.columns().get(i), rows.dialect()), value));
    }
    conditions.add(Sql.not(Sql.exists(Sql.table(table, TABLE, rows.dialect()), Sql.all(equal))));
    return Sql.all(conditions);
  }

  @Override
  public Shown shownByPart() {
    return Shown.BREACH;
  }

  @Override
  public Inquiry inquiry(ResultRows rows) {
    Expression lost = lost(rows);
    Question<Long> wrong =
        rows.numbers(
            Query.of(Sql.select(List.of(Sql.as(Sql.count(), "c0")), rows.from(), lost)),
            1,
            answer -> answer.figure(0));
    Question<Long> given =
        rows.count(
            Sql.all(positions.stream().map(ResultRows::column).map(Sql::isNotNull).toList()));
    return new Inquiry(
        List.of(given, wrong),
        answers -> {
          long all = answers.to(given);
          long found = answers.to(wrong);
          if (all == 0) {
            return Outcome.nothing("no row of the result has a value in " + words);
          }
          return found == 0
              ? Outcome.holds(
                  "in " + Words.rows(all) + ", " + words + " is " + Words.one(table.name()))
              : Outcome.broken(
                  "in "
                      + Words.number(found)
                      + " of "
                      + Words.rows(all)
                      + ", "
                      + words
                      + " is no "
                      + table.name(),
                  found,
                  rows.where(lost),
                  rows.headings());
        });
  }
}
