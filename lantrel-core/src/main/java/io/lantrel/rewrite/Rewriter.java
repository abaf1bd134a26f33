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
   * @param caveats on which data the two do not give the same rows; empty if they always do
   */
  public record Rewritten(String sql, List<Caveat> caveats) {
    public Rewritten {
      caveats = List.copyOf(caveats);
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
    List<Caveat> caveats = new ArrayList<>();
    for (int count = 0; count < MOST; count++) {
      FormEdits change = next(Reading.of(text, catalog), form);
      if (change.isNone()) {
        return new Rewritten(text, caveats);
      }
      text = Edit.apply(text, change.edits());
      if (change.caveat() != null) {
        caveats.add(change.caveat());
      }
    }
    throw new RewriteException("this query has more than " + MOST + " places to change");
  }

  private static FormEdits next(Reading reading, Form form) {
    for (QueryBlock block : reading.resolution().blocks()) {
      FormEdits change = change(form, reading, block);
      if (!change.isNone()) {
        return change;
      }
    }
    return FormEdits.NONE;
  }

  private static FormEdits change(Form form, Reading reading, QueryBlock block) {
    return switch (form) {
      case JOINS -> joins(reading, block);
      case ON -> FormEdits.of(new UsingForm(reading, block).edits());
      case LEFT -> FormEdits.of(new RightForm(reading, block).edits());
      case FLAT -> new FlatForm(reading, block).change();
      case UNION -> new FullForm(reading, block).change();
      case QUALIFIED -> FormEdits.of(NameForms.qualified(block));
      case COLUMNS -> FormEdits.of(NameForms.columns(reading.source(), block));
      case SHORT -> new AliasForms(reading, block).shortOnes();
      case ROLES -> new AliasForms(reading, block).roles();
      case NOT_EXISTS -> new Absence(reading, block).notExists();
      case NOT_IN -> new Absence(reading, block).notIn();
      case IS_NULL -> new Absence(reading, block).isNull();
    };
  }

  private static FormEdits joins(Reading reading, QueryBlock block) {
    FormEdits marks = new OldOuterJoinForm(reading, block).change();
    return marks.isNone() ? FormEdits.of(new CommaForm(reading, block).edits()) : marks;
  }
}
