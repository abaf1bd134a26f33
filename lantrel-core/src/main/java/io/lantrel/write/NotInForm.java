package io.lantrel.write;

import io.lantrel.probe.Words;
import io.lantrel.resolve.Binding;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;

/**
 * NOT IN with a query as NOT EXISTS. The two differ where NULL comes in (ISO/IEC 9075-2, 8.4): one
 * NULL in the list, and NOT IN is true of no row; a NULL on the left, and it is not true either.
 */
final class NotInForm {

  private final SourceText source;
  private final QueryBlock block;

  NotInForm(SourceText source, QueryBlock block) {
    this.source = source;
    this.block = block;
  }

  List<Edit> edits() {
    Expression where = block.select().where();
    Optional<Condition.InQuery> found =
        where == null
            ? Optional.empty()
            : where
                .preorder()
                .filter(Condition.InQuery.class::isInstance)
                .map(Condition.InQuery.class::cast)
                .filter(each -> each.negated() && isOwn(each))
                .findFirst();
    return found.map(this::edits).orElse(List.of());
  }

  /** The left side is a column of this block, so that subqueries come when it is their turn. */
  private boolean isOwn(Condition.InQuery each) {
    return each.value() instanceof ColumnName name
        && block.binding(name) instanceof Binding.ToColumn bound
        && block.uses().contains(bound.column().use());
  }

  private List<Edit> edits(Condition.InQuery in) {
    UseColumn outer = ((Binding.ToColumn) block.binding((ColumnName) in.value())).column();
    Query query = in.query();
    if (!(query.body() instanceof QueryBody.Select select)
        || select.items().size() != 1
        || !(select.items().get(0) instanceof SelectItem.Output output)
        || !(output.value() instanceof ColumnName inner)
        || !(block.binding(inner) instanceof Binding.ToColumn bound)
        || select.from() == null
        || !select.groupBy().isEmpty()
        || select.having() != null
        || query.limit() != null) {
      throw new WishException(
          "NOT IN is rewritten only over a plain query of one column, without groups and limits");
    }
    if (bound.column().use().written().equalsIgnoreCase(outer.use().written())) {
      throw new WishException(
          outer.use().written()
              + " stands for a table outside and inside of the subquery; give one another alias");
    }
    List<Edit> edits = new ArrayList<>();
    int behind = in.value().span().end();
    String words = source.text().substring(behind, query.span().start());
    int open = words.lastIndexOf('(');
    edits.add(
        new Edit(
            new Span(in.value().span().start(), behind + open),
            Words.like(words.strip(), "NOT EXISTS") + " "));
    edits.add(new Edit(output.span(), "1"));
    String same = bound.column().written() + " = " + outer.written();
    Expression where = select.where();
    if (where == null) {
      int end = Objects.requireNonNull(select.from()).span().end();
      edits.add(Edit.insert(end, " " + Words.like(words.strip(), "WHERE") + " " + same));
    } else {
      boolean or =
          where instanceof Condition.Or && source.text().charAt(where.span().start()) != '(';
      if (or) {
        edits.add(Edit.insert(where.span().start(), "("));
      }
      edits.add(
          Edit.insert(
              where.span().end(),
              (or ? ")" : "") + " " + Words.like(words.strip(), "AND") + " " + same));
    }
    return edits;
  }
}
