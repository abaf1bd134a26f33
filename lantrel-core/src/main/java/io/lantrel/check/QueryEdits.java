package io.lantrel.check;

import io.lantrel.probe.Words;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Span;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;

/** Changes of a block as edits of its text, which keep layout and comments. */
public final class QueryEdits {

  private final SourceText source;
  private final QueryBlock block;

  public QueryEdits(Subject subject) {
    this.source = subject.source();
    this.block = subject.block();
  }

  /** A keyword in this text's way of writing keywords. */
  public String keyword(String word) {
    int start = block.select().span().start();
    int end = Math.min(start + 6, source.text().length());
    return Words.like(source.text().substring(start, end), word);
  }

  /** What stands before a new clause: a line of its own if FROM has one, or a blank. */
  private String gap() {
    int from = Objects.requireNonNull(block.select().from()).span().start();
    String before = source.text().substring(0, from);
    int word = before.toLowerCase(Locale.ROOT).lastIndexOf("from");
    if (word < 0) {
      return " ";
    }
    int line = before.lastIndexOf('\n', word) + 1;
    String indent = before.substring(line, word);
    return line > 0 && indent.isBlank() ? "\n" + indent : " ";
  }

  /** Adds a condition to WHERE, or a WHERE with it. */
  public List<Edit> addFilter(String condition) {
    Expression where = block.select().where();
    if (where != null) {
      return and(where, condition);
    }
    FromItem from = Objects.requireNonNull(block.select().from());
    return List.of(Edit.insert(from.span().end(), gap() + keyword("WHERE") + " " + condition));
  }

  /** Adds a condition to an existing one. */
  public List<Edit> and(Expression existing, String condition) {
    Span span = existing.span();
    String tail = " " + keyword("AND") + " " + condition;
    if (existing instanceof Condition.Or && source.text().charAt(span.start()) != '(') {
      return List.of(Edit.insert(span.start(), "("), Edit.insert(span.end(), ")" + tail));
    }
    return List.of(Edit.insert(span.end(), tail));
  }

  /** Takes a condition out of WHERE; the whole WHERE, if it is the only one. */
  public Optional<List<Edit>> removeFilter(Expression condition) {
    Expression where = Objects.requireNonNull(block.select().where());
    if (where.equals(condition)) {
      return Optional.of(List.of(new Edit(new Span(startOfWhere(where), where.span().end()), "")));
    }
    return where
        .preorder()
        .filter(Condition.And.class::isInstance)
        .map(node -> ((Condition.And) node).terms())
        .filter(terms -> terms.contains(condition))
        .findFirst()
        .map(terms -> List.of(new Edit(withItsAnd(terms, terms.indexOf(condition)), "")));
  }

  /** Where the word WHERE begins; the space before it goes along, a comment there stays. */
  private int startOfWhere(Expression where) {
    int from = Objects.requireNonNull(block.select().from()).span().end();
    String gap = source.text().substring(from, where.span().start());
    int word = gap.toLowerCase(Locale.ROOT).lastIndexOf("where");
    return from + (gap.substring(0, word).isBlank() ? 0 : word);
  }

  private static Span withItsAnd(List<Expression> terms, int index) {
    return index == 0
        ? new Span(terms.get(0).span().start(), terms.get(1).span().start())
        : new Span(terms.get(index - 1).span().end(), terms.get(index).span().end());
  }

  /** Adds columns to GROUP BY, or a GROUP BY with them. */
  public Edit addGrouping(String columns) {
    List<Expression> groupBy = block.select().groupBy();
    if (!groupBy.isEmpty()) {
      return Edit.insert(groupBy.get(groupBy.size() - 1).span().end(), ", " + columns);
    }
    return Edit.insert(endOfWhere(), gap() + keyword("GROUP BY") + " " + columns);
  }

  /** Adds a condition to HAVING, or a HAVING with it. */
  public List<Edit> addHaving(String condition) {
    Expression having = block.select().having();
    if (having != null) {
      return and(having, condition);
    }
    List<Expression> groupBy = block.select().groupBy();
    int end = groupBy.isEmpty() ? endOfWhere() : groupBy.get(groupBy.size() - 1).span().end();
    return List.of(Edit.insert(end, gap() + keyword("HAVING") + " " + condition));
  }

  private int endOfWhere() {
    Expression where = block.select().where();
    return where != null
        ? where.span().end()
        : Objects.requireNonNull(block.select().from()).span().end();
  }

  /** Makes a join another kind of join. */
  public Edit kind(JoinStep step, JoinKind kind) {
    String natural = step.join().natural() ? "NATURAL " : "";
    return new Edit(step.place(), Words.like(source.at(step.place()), natural + kind.words()));
  }

  /** Adds a condition to the ON of a join; empty if it has none. */
  public Optional<List<Edit>> addToOn(JoinStep step, String condition) {
    return step.join().condition() instanceof JoinCondition.On on
        ? Optional.of(and(on.condition(), condition))
        : Optional.empty();
  }

  /**
   * Joins one more table behind the item of the comma list that holds a table use.
   *
   * @param use the table use that refers to the new table
   * @param optional whether rows of the use may lack a partner, so that they must be kept
   */
  public Edit addJoin(TableUse use, String table, String condition, boolean optional) {
    FromItem item = Objects.requireNonNull(block.select().from());
    while (item instanceof FromItem.Join join && join.kind() == JoinKind.COMMA) {
      item = join.right().span().contains(use.item().span()) ? join.right() : join.left();
    }
    String words = keyword(optional ? "LEFT JOIN" : "JOIN");
    return Edit.insert(
        item.span().end(),
        gap() + words + " " + block.dialect().write(table) + " " + keyword("ON") + " " + condition);
  }
}
