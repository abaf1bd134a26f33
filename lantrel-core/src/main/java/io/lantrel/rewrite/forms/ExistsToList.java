package io.lantrel.rewrite.forms;

import io.lantrel.resolve.QueryBlock;
import io.lantrel.rewrite.Caveat;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.rewrite.forms.Ties.Tie;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** NOT EXISTS as NOT IN: the equalities with the outer row become what is looked for. */
final class ExistsToList {

  private final Reading reading;
  private final QueryBlock block;

  ExistsToList(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
  }

  FormEdits change() {
    return Absence.conditions(block, Condition.Not.class)
        .filter(not -> not.value() instanceof Condition.Exists)
        .findFirst()
        .map(this::change)
        .orElse(FormEdits.NONE);
  }

  private FormEdits change(Condition.Not not) {
    Query query = ((Condition.Exists) not.value()).query();
    QueryBlock inner =
        Absence.plain(reading, query)
            .orElseThrow(
                () ->
                    new RewriteException(
                        "NOT EXISTS over groups, a limit or parts cannot be written as NOT IN"));
    Ties ties = Ties.of(reading, inner);
    if (ties.equalities().isEmpty() || !ties.areAll()) {
      throw new RewriteException(
          "NOT EXISTS can be written as NOT IN only if equalities, and nothing else, connect its"
              + " query with the row outside");
    }
    List<Edit> edits = edits(not, query, inner, ties.equalities());
    return new FormEdits(edits, caveat(not, edits));
  }

  private List<Edit> edits(Condition.Not not, Query query, QueryBlock inner, List<Tie> pairs) {
    int open = reading.opening(not.span().start(), query);
    String outer = joined(pairs.stream().map(Tie::outer).toList());
    String words = pairs.size() > 1 ? "(" + outer + ")" : outer;
    List<Edit> edits = new ArrayList<>();
    edits.add(
        new Edit(
            new Span(not.span().start(), open),
            words + " " + reading.edits(block).keyword("NOT IN") + " "));
    int end = not.value().span().end();
    if (end < not.span().end()) {
      edits.add(new Edit(new Span(end, not.span().end()), ""));
    }
    List<SelectItem> items = inner.select().items();
    edits.add(
        new Edit(
            items.get(0).span().to(items.get(items.size() - 1).span()),
            joined(pairs.stream().map(Tie::inner).toList())));
    edits.addAll(reading.edits(inner).removeTerms(pairs.stream().map(Tie::whole).toList()));
    return edits;
  }

  private String joined(List<Expression> values) {
    return String.join(", ", values.stream().map(reading::text).toList());
  }

  /** What is to be known of the new form, read anew as it will stand. */
  private @Nullable Caveat caveat(Condition.Not not, List<Edit> edits) {
    Reading now = Reading.of(Edit.apply(reading.source().text(), edits), reading.catalog());
    for (QueryBlock each : now.resolution().blocks()) {
      Optional<Condition.InQuery> in =
          Absence.conditions(each, Condition.InQuery.class)
              .filter(found -> found.span().start() == not.span().start())
              .findFirst();
      if (in.isPresent()) {
        return new ListCaveat(now, each).of(in.get());
      }
    }
    throw new IllegalStateException("NOT IN was written and is not there");
  }
}
