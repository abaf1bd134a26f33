package io.lantrel.ledger;

import io.lantrel.engine.Rows;
import io.lantrel.ledger.Entry.Kind;
import io.lantrel.probe.Chain;
import io.lantrel.probe.NamedRow;
import io.lantrel.probe.Reason;
import io.lantrel.probe.ReasonWords;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.probe.Unmatched;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;

/**
 * Turns the figures of a block into entries: first it asks for the rows to name, then it writes.
 */
final class EntryMaker {

  private final Chain chain;
  private final QueryBlock block;
  private final Map<String, Long> figures;
  private final RowNames names;
  private final Map<String, Integer> positions = new HashMap<>();

  EntryMaker(Chain chain, Map<String, Long> figures, RowNames names) {
    this.chain = chain;
    this.block = chain.block();
    this.figures = figures;
    this.names = names;
  }

  private long figure(String name) {
    return figures.getOrDefault(name, 0L);
  }

  /** Asks for names only where there are rows. */
  void askForNames() {
    for (JoinStep step : block.steps()) {
      ask("left", step, Unmatched.ofTheLeft(chain, step));
      ask("right", step, Unmatched.ofTheRight(chain, step));
      if (repeated(step) > 0) {
        TableUse subject = Unmatched.ofTheLeft(chain, step).subject();
        positions.put(
            "repeated at step " + step.number(),
            names.want(chain.pairs(step), subject, chain.hasSeveralPartners(step)));
      }
    }
    TableUse subject = subject();
    for (int i = 1; i <= block.filters().size(); i++) {
      if (figure("failed " + i) > 0) {
        positions.put(
            "failed " + i,
            names.want(chain.flagged(), subject, Sql.equal(chain.failed(), Sql.number(i))));
      }
    }
  }

  private void ask(String side, JoinStep step, Unmatched unmatched) {
    for (Reason reason : Reason.values()) {
      String name = side + " " + reason + " of step " + step.number();
      if (figure(name) > 0) {
        Expression condition = Sql.all(List.of(unmatched.condition(), unmatched.because(reason)));
        positions.put(name, names.want(unmatched.relation(), unmatched.subject(), condition));
      }
    }
  }

  /** A row that WHERE drops is named by the first table that is always there. */
  private TableUse subject() {
    return block.uses().stream()
        .filter(use -> block.stepsThatFill(use).isEmpty())
        .findFirst()
        .orElseGet(() -> block.uses().get(0));
  }

  List<Entry> entries(Rows named, long counted) {
    List<Entry> entries = new ArrayList<>();
    TableUse first = block.uses().get(0);
    long rows = figure("rows of " + first.index());
    entries.add(
        new Entry(Kind.FROM, first.words(), first.item().span(), rows, List.of(), rows, null));
    for (JoinStep step : block.steps()) {
      entries.add(join(step, named));
    }
    if (block.select().where() != null && !block.filters().isEmpty()) {
      entries.add(where(last(entries), named));
    }
    if (block.isGrouped()) {
      entries.add(group(last(entries)));
      Expression having = block.select().having();
      if (having != null) {
        entries.add(
            fewer(
                Kind.HAVING,
                "HAVING " + SqlPrinter.print(having, block.dialect()),
                having.span(),
                last(entries),
                Figure.DROPPED,
                figure("groups after having")));
      }
    }
    if (block.select().distinct()) {
      Span place = new Span(block.select().span().start(), block.select().span().start() + 6);
      entries.add(
          fewer(
              Kind.DISTINCT, "DISTINCT", place, last(entries), Figure.MERGED, figure("distinct")));
    }
    Limit limit = block.query().limit();
    if (limit != null) {
      entries.add(fewer(Kind.LIMIT, "LIMIT", limit.span(), last(entries), Figure.CUT, counted));
    }
    return entries;
  }

  private static long last(List<Entry> entries) {
    return entries.get(entries.size() - 1).after();
  }

  private static Entry fewer(
      Kind kind, String words, Span place, long before, Figure figure, long after) {
    Change change = new Change(figure, before - after, List.of());
    return new Entry(kind, words, place, before, List.of(change), after, null);
  }

  private Entry join(JoinStep step, Rows named) {
    String n = " of step " + step.number();
    long before = rowsBefore(step);
    long alone = figure("left alone" + n);
    long repeated = repeated(step);
    long rightAlone = figure("right alone" + n);
    Figure left = step.kind().keepsLeft() ? Figure.FILLED : Figure.DROPPED;
    Figure right = step.kind().keepsRight() ? Figure.ADDED : Figure.UNUSED;
    List<Change> changes = new ArrayList<>();
    changes.add(new Change(left, alone, causes("left", step, named)));
    changes.add(new Change(Figure.REPEATED, repeated, several(step, named)));
    changes.add(new Change(right, rightAlone, causes("right", step, named)));
    long after = rowsAfter(step);
    return new Entry(
        Kind.JOIN,
        step.words(),
        step.place(),
        before,
        changes,
        after,
        block.partnersOnTheRight(step).words());
  }

  /** The rows that come in: those of the first table, or those that an earlier join hands on. */
  private long rowsBefore(JoinStep step) {
    FromItem left = step.join().left();
    return block
        .use(left)
        .map(use -> figure("rows of " + use.index()))
        .orElseGet(() -> rowsAfter(block.step(left).orElseThrow()));
  }

  private long rowsAfter(JoinStep step) {
    String n = " of step " + step.number();
    return figure("pairs" + n)
        + (step.kind().keepsLeft() ? figure("left alone" + n) : 0)
        + (step.kind().keepsRight() ? figure("right alone" + n) : 0);
  }

  private long repeated(JoinStep step) {
    String n = " of step " + step.number();
    return figure("pairs" + n) - (rowsBefore(step) - figure("left alone" + n));
  }

  private List<Cause> several(JoinStep step, Rows named) {
    if (repeated(step) == 0) {
      return List.of();
    }
    List<NamedRow> rows = rows("repeated at step " + step.number(), named);
    long several = figure("several partners of step " + step.number());
    String reason =
        (several == 1 ? "1 row has several partners" : several + " rows have several partners")
            + (several > rows.size() && !rows.isEmpty() ? ", among them" : "");
    return List.of(new Cause(reason, repeated(step), rows));
  }

  private List<Cause> causes(String side, JoinStep step, Rows named) {
    List<Cause> causes = new ArrayList<>();
    for (Reason reason : Reason.values()) {
      String name = side + " " + reason + " of step " + step.number();
      if (figure(name) > 0) {
        String why = new ReasonWords(block, step, side.equals("left")).of(reason, figure(name));
        causes.add(new Cause(why, figure(name), rows(name, named)));
      }
    }
    return causes;
  }

  private List<NamedRow> rows(String name, Rows named) {
    Integer position = positions.get(name);
    return position == null ? List.of() : names.names(named, position);
  }

  private Entry where(long before, Rows named) {
    List<Cause> causes = new ArrayList<>();
    long dropped = 0;
    for (int i = 1; i <= block.filters().size(); i++) {
      Conjunct filter = block.filters().get(i - 1);
      long rows = figure("failed " + i);
      dropped += rows;
      if (rows > 0) {
        causes.add(
            new Cause(
                SqlPrinter.print(filter.condition(), block.dialect()) + " is not true",
                rows,
                rows("failed " + i, named)));
      }
    }
    Expression where = Objects.requireNonNull(block.select().where());
    return new Entry(
        Kind.WHERE,
        "WHERE",
        where.span(),
        before,
        List.of(new Change(Figure.DROPPED, dropped, causes)),
        figure("failed 0"),
        null);
  }

  private Entry group(long before) {
    long groups = figure("groups");
    boolean all = block.grouping().isEmpty();
    Span place =
        all
            ? block.select().span()
            : block
                .select()
                .groupBy()
                .get(0)
                .span()
                .to(block.select().groupBy().get(block.select().groupBy().size() - 1).span());
    String words =
        all
            ? "one group of all rows"
            : "GROUP BY "
                + String.join(
                    ", ",
                    block.select().groupBy().stream()
                        .map(each -> SqlPrinter.print(each, block.dialect()))
                        .toList());
    // Over no rows at all, an aggregate without GROUP BY still gives one row.
    Change change =
        groups > before
            ? new Change(Figure.ADDED, groups - before, List.of())
            : new Change(Figure.MERGED, before - groups, List.of());
    return new Entry(Kind.GROUP, words, place, before, List.of(change), groups, null);
  }
}
