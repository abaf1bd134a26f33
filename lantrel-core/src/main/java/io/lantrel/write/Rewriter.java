package io.lantrel.write;

import io.lantrel.catalog.Catalog;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.Resolver;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.Statement;
import java.util.List;

/**
 * Brings queries into another form, by edits of their text: what is not touched stays as it is,
 * comments and layout too. One place is changed at a time and the text read anew, until nothing of
 * the old form is left.
 */
public final class Rewriter {

  /** No text is changed in more places than this. */
  private static final int MOST = 500;

  private final Catalog catalog;

  public Rewriter(Catalog catalog) {
    this.catalog = catalog;
  }

  /**
   * The text of a query in a form; the same text if it has that form already.
   *
   * @param sql one query
   * @throws WishException if it is not one query without errors, or cannot be brought into the form
   */
  public String rewrite(String sql, Form form) {
    String text = sql;
    for (int change = 0; change < MOST; change++) {
      List<Edit> edits = next(text, form);
      if (edits.isEmpty()) {
        return text;
      }
      text = Edit.apply(text, edits);
    }
    throw new WishException("this query has more than " + MOST + " places to change");
  }

  private List<Edit> next(String text, Form form) {
    SourceText source = new SourceText(text);
    List<Statement> statements = SqlReader.read(source, catalog.dialect());
    if (statements.size() != 1
        || !(statements.get(0) instanceof Statement.QueryStatement statement)) {
      throw new WishException("only one query that Lantrel reads can be rewritten");
    }
    Resolution resolution = Resolver.resolve(statement.query(), catalog);
    if (!resolution.problems().isEmpty()) {
      throw new WishException("this query has an error; lantrel check tells which");
    }
    for (QueryBlock block : resolution.blocks()) {
      List<Edit> edits = change(form, source, block);
      if (!edits.isEmpty()) {
        return edits;
      }
    }
    return List.of();
  }

  private static List<Edit> change(Form form, SourceText source, QueryBlock block) {
    return switch (form) {
      case JOINS -> new CommaForm(source, block).edits();
      case ON -> new UsingForm(source, block).edits();
      case LEFT -> new RightForm(source, block).edits();
      case QUALIFIED -> NameForms.qualified(block);
      case COLUMNS -> NameForms.columns(source, block);
      case NOT_EXISTS -> new NotInForm(source, block).edits();
    };
  }
}
