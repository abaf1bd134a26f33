package io.lantrel.draft;

import io.lantrel.sql.Dialect;
import io.lantrel.sql.Edit;
import io.lantrel.sql.Parentheses;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.Statement;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** Conditions of a wish: SQL over columns of tables and roles, which become those of aliases. */
final class Conditions {

  private static final String FRAME = "SELECT 1 FROM x WHERE ";

  private final Uses uses;
  private final Dialect dialect;

  Conditions(Uses uses) {
    this.uses = uses;
    this.dialect = uses.dialect();
  }

  /**
   * A condition as the draft has it.
   *
   * @param text over aliases
   * @param uses which it mentions
   * @param wished as it was wished for
   */
  record Written(String text, Set<Use> uses, String wished) {}

  /**
   * Writes a condition.
   *
   * @param inner what a name means that is not of the draft itself; for columns without a table too
   */
  Written write(String condition, List<Use> inner) {
    List<Edit> edits = new ArrayList<>();
    Set<Use> mentioned = new LinkedHashSet<>();
    for (ColumnName column : columns(condition)) {
      Use use = use(column, inner, condition);
      mentioned.add(use);
      Span place = column.span();
      Span own = new Span(place.start() - FRAME.length(), place.end() - FRAME.length());
      edits.add(new Edit(own, use.column(dialect.stored(column.name()))));
    }
    String text = Edit.apply(condition, edits);
    boolean several = text.matches("(?is).*\\bor\\b.*");
    return new Written(several ? Parentheses.around(text) : text, mentioned, condition);
  }

  private List<ColumnName> columns(String condition) {
    List<Statement> read = SqlReader.read(new SourceText(FRAME + condition), dialect);
    if (read.size() == 1
        && read.get(0) instanceof Statement.QueryStatement statement
        && isOnlyACondition(statement.query())) {
      return statement
          .query()
          .preorder()
          .filter(ColumnName.class::isInstance)
          .map(ColumnName.class::cast)
          .toList();
    }
    throw new WishException(
        "\""
            + condition
            + "\" is not a condition in SQL over columns; a subquery is not taken here");
  }

  private static boolean isOnlyACondition(Query query) {
    boolean nested =
        query.preorder().filter(Query.class::isInstance).map(Node.class::cast).count() > 1;
    return !nested
        && query.orderBy().isEmpty()
        && query.limit() == null
        && query.body() instanceof QueryBody.Select select
        && select.groupBy().isEmpty()
        && select.having() == null;
  }

  private Use use(ColumnName column, List<Use> inner, String condition) {
    String name = dialect.stored(column.name());
    if (column.qualifier().isEmpty()) {
      List<Use> having =
          inner.stream().filter(each -> each.table().column(name).isPresent()).toList();
      if (having.size() == 1) {
        return having.get(0);
      }
      if (having.isEmpty() && inner.size() == 1) {
        throw inner.get(0).unknown(name);
      }
      throw new WishException(
          "in \"" + condition + "\", say whose " + name + " is meant: write table." + name);
    }
    String wanted = dialect.stored(column.qualifier().get(column.qualifier().size() - 1));
    return inner.stream()
        .filter(each -> each.name().equalsIgnoreCase(wanted))
        .findFirst()
        .orElseGet(() -> uses.named(wanted));
  }
}
