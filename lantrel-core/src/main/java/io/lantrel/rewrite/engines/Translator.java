package io.lantrel.rewrite.engines;

import io.lantrel.catalog.Catalog;
import io.lantrel.edit.OneQuery;
import io.lantrel.portability.Portability;
import io.lantrel.rewrite.Form;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.rewrite.Rewritten;
import io.lantrel.rewrite.forms.Reading;
import io.lantrel.rewrite.forms.Rewriter;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Value;
import java.util.List;
import java.util.function.Predicate;

/**
 * Writes queries of one product's SQL in another's. What both understand alike stays as it is, with
 * comments and layout; where the same words mean another thing, as {@code /} between whole numbers,
 * they are changed too. What has no counterpart is left, and then refused by the other product's
 * own reading.
 */
public final class Translator {

  private final Catalog from;
  private final Catalog to;

  /**
   * @param from the tables that the query is written for
   * @param to the same tables where it shall run
   */
  public Translator(Catalog from, Catalog to) {
    this.from = from;
    this.to = to;
  }

  /**
   * A query in the other product's SQL.
   *
   * @param sql one query
   * @throws RewriteException if it is not one query without errors, or the other product has no
   *     words for something in it
   */
  public Rewritten translate(String sql) {
    Dialect target = to.dialect();
    if (from.dialect() == target) {
      return new Rewritten(sql, List.of());
    }
    String text = CommentMarks.in(sql, from.dialect(), target);
    Rewriter forms = new Rewriter(from);
    Reading reading = Reading.of(text, from);
    if (reading.has(Value.OuterMark.class)) {
      text = forms.rewrite(text, Form.JOINS).sql();
    }
    if (hasJoin(text, FromItem.Join::natural) && !hasNatural(target)) {
      text = forms.rewrite(text, Form.ON).sql();
    }
    if (hasJoin(text, join -> join.natural() || join.condition() instanceof JoinCondition.Using)
        && target.has(Rule.USING_MERGES_NO_NAMES)) {
      text = forms.rewrite(text, Form.ON).sql();
    }
    boolean full =
        Reading.of(text, from).resolution().blocks().stream()
            .flatMap(block -> block.steps().stream())
            .anyMatch(step -> step.kind() == JoinKind.FULL);
    if (full && !hasFullJoin(target)) {
      text = forms.rewrite(text, Form.UNION).sql();
    }
    Rendering rendering = new Rendering(Reading.of(text, from), target);
    String translated = rendering.all();
    OneQuery read = readThere(translated);
    // Whether the others take it is seen where it is run; there a statement is dear.
    if (target == Dialect.TRINO) {
      refuseIfLacking(read);
    }
    return new Rewritten(translated, rendering.caveats());
  }

  private boolean hasJoin(String text, Predicate<FromItem.Join> which) {
    return Reading.of(text, from).resolution().blocks().stream()
        .flatMap(block -> block.query().preorder())
        .anyMatch(each -> each instanceof FromItem.Join join && which.test(join));
  }

  private static boolean hasNatural(Dialect dialect) {
    return dialect != Dialect.TRINO;
  }

  private static boolean hasFullJoin(Dialect dialect) {
    return dialect != Dialect.MARIADB && dialect != Dialect.H2;
  }

  /** What was not written anew, and is not there. */
  private static void refuseIfLacking(OneQuery read) {
    new Portability(read.source(), read.resolution())
        .differences(read.resolution().result().query()).stream()
            .findFirst()
            .ifPresent(
                each -> {
                  throw new RewriteException("it would not run there: " + each.message());
                });
  }

  private OneQuery readThere(String text) {
    try {
      return OneQuery.read(text, to);
    } catch (SyntaxException fault) {
      throw new RewriteException("it would be an error there: " + fault.getMessage());
    }
  }
}
