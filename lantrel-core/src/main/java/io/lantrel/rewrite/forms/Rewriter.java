package io.lantrel.rewrite.forms;

import io.lantrel.catalog.Catalog;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.rewrite.Caveat;
import io.lantrel.rewrite.Form;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.rewrite.Rewritten;
import io.lantrel.sql.Edit;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.stream.Collectors;

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
   * Brings a query into a form.
   *
   * @param sql one query
   * @throws RewriteException if it is not one query without errors, or cannot be brought into the
   *     form
   */
  public Rewritten rewrite(String sql, Form form) {
    QuestionMarks marks = QuestionMarks.of(Reading.of(sql, catalog));
    Rewritten rewritten = changed(marks.named(), form);
    return marks.count() == 0
        ? rewritten
        : marks.given(rewritten, Reading.of(rewritten.sql(), catalog));
  }

  private Rewritten changed(String sql, Form form) {
    String text = sql;
    List<Caveat> caveats = new ArrayList<>();
    for (int count = 0; count < MOST; count++) {
      Reading reading = Reading.of(text, catalog);
      List<FormEdits> left = new ArrayList<>();
      FormEdits change = next(reading, form, left);
      if (change.isNone()) {
        refuseIfNothingIsChanged(text.equals(sql), left);
        left.forEach(each -> caveats.add(Objects.requireNonNull(each.caveat())));
        return new Rewritten(text, caveats);
      }
      text = Edit.apply(text, change.edits());
      if (change.caveat() != null) {
        caveats.add(change.caveat());
      }
    }
    throw new RewriteException("this query has more than " + MOST + " places to change");
  }

  private static void refuseIfNothingIsChanged(boolean same, List<FormEdits> left) {
    if (same && !left.stream().allMatch(FormEdits::belongs)) {
      throw new RewriteException(
          left.stream()
              .map(each -> Objects.requireNonNull(each.caveat()).words())
              .distinct()
              .collect(Collectors.joining("; ")));
    }
  }

  /**
   * @param left gets the reasons why something of the old form stays
   */
  private static FormEdits next(Reading reading, Form form, List<FormEdits> left) {
    for (QueryBlock block : reading.resolution().blocks()) {
      FormEdits change = change(form, reading, block);
      if (!change.isNone()) {
        return change;
      }
      if (change.caveat() != null) {
        left.add(change);
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
      case COLUMNS -> FormEdits.of(NameForms.columns(reading, block));
      case SHORT -> new AliasForms(reading, block).shortOnes();
      case ROLES -> new AliasForms(reading, block).roles();
      case NOT_EXISTS -> new Absence(reading, block).notExists();
      case NOT_IN -> new Absence(reading, block).notIn();
      case IS_NULL -> new Absence(reading, block).isNull();
      case JOIN_ONCE -> new PresenceToJoin(reading, block).change();
      case NO_SCALAR -> new ScalarToJoin(reading, block).change();
      case SCALAR -> new JoinToScalar(reading, block).change();
      case WITH -> new DerivedToWith(reading, block).change();
      case DERIVED -> new WithToDerived(reading, block).change();
      case FILTER_WHERE -> new FilterForms(reading, block).inWhere();
      case FILTER_ON -> new FilterForms(reading, block).inOn();
      case IN_LIST -> new InListForm(reading, block).change();
      case COALESCE -> new CoalesceForm(reading, block).change();
    };
  }

  private static FormEdits joins(Reading reading, QueryBlock block) {
    FormEdits marks = new OldOuterJoinForm(reading, block).change();
    return marks.isNone() ? FormEdits.of(new CommaForm(reading, block).edits()) : marks;
  }
}
