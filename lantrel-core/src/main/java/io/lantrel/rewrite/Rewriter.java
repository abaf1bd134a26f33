package io.lantrel.rewrite;

import io.lantrel.catalog.Catalog;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Edit;
import java.util.ArrayList;
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
   * A query in another form.
   *
   * @param sql the text; the same if it had that form already
   * @param doubts on which data the two do not give the same rows; empty if they always do
   */
  public record Rewritten(String sql, List<Doubt> doubts) {
    public Rewritten {
      doubts = List.copyOf(doubts);
    }
  }

  /**
   * Brings a query into a form.
   *
   * @param sql one query
   * @throws RewriteException if it is not one query without errors, or cannot be brought into the
   *     form
   */
  public Rewritten rewrite(String sql, Form form) {
    String text = sql;
    List<Doubt> doubts = new ArrayList<>();
    for (int count = 0; count < MOST; count++) {
      Change change = next(Reading.of(text, catalog), form);
      if (change.isNone()) {
        return new Rewritten(text, doubts);
      }
      text = Edit.apply(text, change.edits());
      if (change.doubt() != null) {
        doubts.add(change.doubt());
      }
    }
    throw new RewriteException("this query has more than " + MOST + " places to change");
  }

  private static Change next(Reading reading, Form form) {
    for (QueryBlock block : reading.resolution().blocks()) {
      Change change = change(form, reading, block);
      if (!change.isNone()) {
        return change;
      }
    }
    return Change.NONE;
  }

  private static Change change(Form form, Reading reading, QueryBlock block) {
    return switch (form) {
      case JOINS -> joins(reading, block);
      case ON -> Change.of(new UsingForm(reading, block).edits());
      case LEFT -> Change.of(new RightForm(reading, block).edits());
      case FLAT -> new FlatForm(reading, block).change();
      case UNION -> new FullForm(reading, block).change();
      case QUALIFIED -> Change.of(NameForms.qualified(block));
      case COLUMNS -> Change.of(NameForms.columns(reading.source(), block));
      case SHORT -> new AliasForms(reading, block).shortOnes();
      case ROLES -> new AliasForms(reading, block).roles();
      case NOT_EXISTS -> new Absence(reading, block).notExists();
      case NOT_IN -> new Absence(reading, block).notIn();
      case IS_NULL -> new Absence(reading, block).isNull();
    };
  }

  private static Change joins(Reading reading, QueryBlock block) {
    Change marks = new MarkForm(reading, block).change();
    return marks.isNone() ? Change.of(new CommaForm(reading, block).edits()) : marks;
  }
}
