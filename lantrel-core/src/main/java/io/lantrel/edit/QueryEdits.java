package io.lantrel.edit;

import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.LexedText;
import io.lantrel.sql.Parentheses;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;

/** Changes of a block as edits of its text, which keep layout and comments. */
public final class QueryEdits {

  private final SourceText source;
  private final QueryBlock block;

  /**
   * @param source the text that the spans of the block are places of
   */
  public QueryEdits(SourceText source, QueryBlock block) {
    this.source = source;
    this.block = block;
  }

  /** A keyword in this text's way of writing keywords. */
  public String keyword(String word) {
    int start = block.select().span().start();
    int end = Math.min(start + 6, source.text().length());
    return Words.like(source.text().substring(start, end), word);
  }

  /** What stands before a new clause: a line of its own if FROM has one, or a blank. */
  public String gap() {
    FromItem from = Objects.requireNonNull(block.select().from());
    return text(new Span(block.select().span().start(), from.span().start()))
        .last("FROM")
        .map(word -> before(word.start()))
        .orElse(" ");
  }

  private String before(int word) {
    String text = source.text();
    int line = Math.max(text.lastIndexOf('\n', word - 1), text.lastIndexOf('\r', word - 1)) + 1;
    String indent = text.substring(line, word);
    return line > 0 && indent.isBlank() ? "\n" + indent : " ";
  }

  private LexedText text(Span part) {
    return new LexedText(source, part, block.dialect());
  }

  /** What stands before a further join: what stands before the last one. */
  public String beforeJoin() {
    return lastJoin()
        .map(step -> source.at(Span.between(step.join().left().span(), step.place())))
        .filter(text -> !text.isEmpty() && text.isBlank())
        .orElseGet(this::gap);
  }

  /** ON with what stands around it in the last join. */
  public String beforeOn() {
    return lastJoin()
            .filter(step -> step.join().condition() instanceof JoinCondition.On)
            .map(step -> Span.between(step.join().right().span(), on(step)))
            .filter(gap -> gap.length() > 0)
            .map(source::at)
            .filter(String::isBlank)
            .orElse(" ")
        + keyword("ON")
        + " ";
  }

  private static Span on(JoinStep step) {
    return Objects.requireNonNull(step.join().condition()).span();
  }

  private Optional<JoinStep> lastJoin() {
    return block.steps().stream()
        .filter(step -> step.join().kind() != JoinKind.COMMA)
        .reduce((first, second) -> second);
  }

  /** AS, if the tables here have it before their aliases. */
  public String beforeAlias() {
    return block.uses().stream()
            .map(use -> use.item() instanceof FromItem.TableName table ? table.alias() : null)
            .anyMatch(alias -> alias != null && hasAs(alias.span(), alias.name().span()))
        ? " " + keyword("AS") + " "
        : " ";
  }

  /** AS, unless all labels here do without. */
  public String beforeLabel() {
    List<SelectItem.Output> labelled = new ArrayList<>();
    for (SelectItem item : block.select().items()) {
      if (item instanceof SelectItem.Output output && output.label() != null) {
        labelled.add(output);
      }
    }
    boolean without =
        !labelled.isEmpty()
            && labelled.stream()
                .map(
                    each ->
                        Span.between(
                            each.value().span(), Objects.requireNonNull(each.label()).span()))
                .allMatch(gap -> source.at(gap).isBlank());
    return without ? " " : " " + keyword("AS") + " ";
  }

  private static boolean hasAs(Span whole, Span name) {
    return whole.start() < name.start();
  }

  /** Where a further join goes that names a table use: behind its item of the comma list. */
  public int behind(TableUse use) {
    FromItem item = Objects.requireNonNull(block.select().from());
    while (item instanceof FromItem.Join join && join.kind() == JoinKind.COMMA) {
      item = join.right().span().contains(use.item().span()) ? join.right() : join.left();
    }
    return item.span().end();
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

  /** The same, before the conditions that are there. */
  public List<Edit> addFilterInFront(String condition) {
    Expression where = block.select().where();
    if (where == null) {
      return addFilter(condition);
    }
    Span span = where.span();
    String head = condition + " " + keyword("AND") + " ";
    return Parentheses.areNeeded(where)
        ? List.of(Edit.insert(span.start(), head + "("), Edit.insert(span.end(), ")"))
        : List.of(Edit.insert(span.start(), head));
  }

  /** Adds a condition to an existing one. */
  public List<Edit> and(Expression existing, String condition) {
    Span span = existing.span();
    String tail = " " + keyword("AND") + " " + condition;
    if (Parentheses.areNeeded(existing)) {
      return List.of(Edit.insert(span.start(), "("), Edit.insert(span.end(), ")" + tail));
    }
    return List.of(Edit.insert(span.end(), tail));
  }

  /** What WHERE puts together with AND; empty if there is none. */
  public List<Expression> terms() {
    Expression where = block.select().where();
    if (where == null) {
      return List.of();
    }
    return Condition.terms(where);
  }

  /** Takes a condition out of WHERE; the whole WHERE, if it is the only one. */
  public Optional<List<Edit>> removeFilter(Expression condition) {
    Expression where = Objects.requireNonNull(block.select().where());
    if (where.equals(condition)) {
      return Optional.of(removeTerms(List.of(condition)));
    }
    return where
        .preorder()
        .filter(Condition.And.class::isInstance)
        .map(node -> ((Condition.And) node).terms())
        .filter(terms -> terms.contains(condition))
        .findFirst()
        .map(terms -> removed(terms, List.of(condition)));
  }

  /** Takes some of {@link #terms} out of WHERE; the whole WHERE, if these are all. */
  public List<Edit> removeTerms(List<Expression> some) {
    if (some.size() < terms().size()) {
      return removed(terms(), some);
    }
    Expression where = Objects.requireNonNull(block.select().where());
    return List.of(new Edit(new Span(startOfWhere(where), where.span().end()), ""));
  }

  private List<Edit> removed(List<Expression> terms, List<Expression> some) {
    return without(terms, some, "AND");
  }

  /**
   * Takes some of several conditions out, with the word that connects them; comments stay.
   *
   * @param terms all of them, in order
   * @param some not all of them
   * @param word AND or OR
   */
  public List<Edit> without(List<Expression> terms, List<Expression> some, String word) {
    List<Edit> edits = new ArrayList<>();
    boolean kept = false;
    for (int i = 0; i < terms.size(); i++) {
      Span span = terms.get(i).span();
      if (!some.contains(terms.get(i))) {
        kept = true;
      } else if (kept) {
        edits.addAll(removed(Span.between(terms.get(i - 1).span(), span), span, word));
      } else {
        edits.addAll(removed(Span.between(span, terms.get(i + 1).span()), span, word));
      }
    }
    return edits;
  }

  /** A condition and the word beside it; a comment that stands between the two stays. */
  private List<Edit> removed(Span between, Span condition, String word) {
    Optional<Span> and = text(between).first(word);
    boolean commented =
        and.isPresent() && !source.at(between).replace(source.at(and.get()), "").isBlank();
    if (!commented) {
      int start = Math.min(between.start(), condition.start());
      return List.of(new Edit(new Span(start, Math.max(between.end(), condition.end())), ""));
    }
    return List.of(new Edit(condition, ""), new Edit(withBlanks(and.get()), ""));
  }

  private Span withBlanks(Span word) {
    int end = word.end();
    while (end < source.text().length() && " \t".indexOf(source.text().charAt(end)) >= 0) {
      end++;
    }
    return new Span(word.start(), end);
  }

  /** Where the word WHERE begins; the space before it goes along, a comment there stays. */
  private int startOfWhere(Expression where) {
    int from = Objects.requireNonNull(block.select().from()).span().end();
    int word =
        text(new Span(from, where.span().start())).last("WHERE").map(Span::start).orElse(from);
    return source.at(new Span(from, word)).isBlank() ? from : word;
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

  /** The word DISTINCT behind SELECT; empty if there is none. */
  public Optional<Span> distinct() {
    int start = block.select().span().start();
    int end = block.select().items().get(0).span().start();
    return block.select().distinct()
        ? text(new Span(start, end)).first("DISTINCT")
        : Optional.empty();
  }

  /** Takes the whole HAVING out. */
  public Edit removeHaving() {
    Expression having = Objects.requireNonNull(block.select().having());
    List<Expression> groupBy = block.select().groupBy();
    int before = groupBy.isEmpty() ? endOfWhere() : groupBy.get(groupBy.size() - 1).span().end();
    int word =
        text(new Span(before, having.span().start()))
            .last("HAVING")
            .map(Span::start)
            .orElse(before);
    int start = source.at(new Span(before, word)).isBlank() ? before : word;
    return new Edit(new Span(start, having.span().end()), "");
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

  /** Takes a condition out of the ON of a join; empty if it is not one of several terms there. */
  public Optional<List<Edit>> removeFromOn(JoinStep step, Expression condition) {
    return step.join().condition() instanceof JoinCondition.On on
            && on.condition() instanceof Condition.And and
            && and.terms().contains(condition)
        ? Optional.of(removed(and.terms(), List.of(condition)))
        : Optional.empty();
  }

  /** Moves a condition from the ON of a join to WHERE; empty if it is not one of several terms. */
  public Optional<List<Edit>> fromOnToWhere(JoinStep step, Expression condition) {
    return removeFromOn(step, condition)
        .map(removed -> together(removed, addFilter(source.at(condition.span()))));
  }

  /**
   * Moves a condition from WHERE into the ON of a join; empty if it has none, or where the
   * condition cannot be taken out.
   *
   * @param written how it is written there
   */
  public Optional<List<Edit>> fromWhereToOn(JoinStep step, Expression condition, String written) {
    return addToOn(step, written)
        .flatMap(added -> removeFilter(condition).map(removed -> together(added, removed)));
  }

  private static List<Edit> together(List<Edit> some, List<Edit> others) {
    return Stream.concat(some.stream(), others.stream()).toList();
  }

  /**
   * Joins one more table behind the item of the comma list that holds a table use.
   *
   * @param use the table use that refers to the new table
   * @param optional whether rows of the use may lack a partner, so that they must be kept
   */
  public Edit addJoin(TableUse use, String table, String condition, boolean optional) {
    String words = optional ? "LEFT JOIN" : "JOIN";
    return joined(behind(use), words, block.dialect().write(table), condition);
  }

  /**
   * Joins one more table, as it is to be written.
   *
   * @param place behind which item of FROM
   */
  public Edit addToFrom(String words, String table, String condition, int place) {
    return Edit.insert(place, beforeJoin() + keyword(words) + " " + table + beforeOn() + condition);
  }

  private Edit joined(int place, String words, String table, String condition) {
    return Edit.insert(
        place, gap() + keyword(words) + " " + table + " " + keyword("ON") + " " + condition);
  }
}
