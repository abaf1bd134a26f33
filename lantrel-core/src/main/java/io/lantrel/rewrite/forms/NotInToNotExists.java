package io.lantrel.rewrite.forms;

import io.lantrel.edit.QueryEdits;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * NOT IN with a query as NOT EXISTS. The two differ where NULL comes in (ISO/IEC 9075-2, 8.4): one
 * NULL in the list, and NOT IN is true of no row; a NULL on the left, and it is not true either.
 */
final class NotInToNotExists {

  private final Reading reading;
  private final QueryBlock block;

  NotInToNotExists(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
  }

  FormEdits change() {
    return Absence.conditions(block, Condition.class)
        .filter(each -> list(each) != null)
        .findFirst()
        .map(this::change)
        .orElse(FormEdits.NONE);
  }

  /** What a condition tests, if it is NOT IN: {@code x NOT IN (…)}, or {@code NOT x IN (…)}. */
  private static Condition.@Nullable InQuery list(Condition condition) {
    if (condition instanceof Condition.InQuery in) {
      return in.negated() ? in : null;
    }
    return condition instanceof Condition.Not not
            && not.value() instanceof Condition.InQuery in
            && !in.negated()
        ? in
        : null;
  }

  /** What is looked for: one value, or those of a row. */
  static List<Expression> values(Condition.InQuery in) {
    return in.value() instanceof Value.RowValue row ? row.values() : List.of(in.value());
  }

  private FormEdits change(Condition whole) {
    Condition.InQuery in = Objects.requireNonNull(list(whole));
    List<Expression> values = values(in);
    Optional<QueryBlock> plain = Absence.plain(reading, in.query());
    List<Edit> edits = new ArrayList<>();
    Span words = new Span(whole.span().start(), opening(in));
    String exists = reading.edits(block).keyword("NOT EXISTS") + " ";
    edits.add(new Edit(words, exists));
    if (in.span().end() < whole.span().end()) {
      edits.add(new Edit(new Span(in.span().end(), whole.span().end()), ""));
    }
    List<OutputColumn> listed = listed(in, values.size());
    if (plain.isEmpty()) {
      edits.addAll(around(in, values, listed));
    } else {
      List<TableUse> named =
          values.stream()
              .flatMap(value -> reading.columns(value).stream())
              .map(UseColumn::use)
              .toList();
      List<Edit> apart = Absence.apart(reading, plain.get(), named);
      if (!apart.isEmpty()) {
        return FormEdits.of(apart);
      }
      if (NameForms.hasStar(plain.get())) {
        return FormEdits.of(NameForms.columns(reading, plain.get()));
      }
      edits.addAll(within(plain.get(), values));
    }
    return new FormEdits(edits, new ListCaveat(reading, block).of(in));
  }

  /** Where the parenthesis of the query opens. */
  private int opening(Condition.InQuery in) {
    return reading.opening(in.span().start(), in.query());
  }

  private List<OutputColumn> listed(Condition.InQuery in, int wanted) {
    List<OutputColumn> outputs = reading.outputs(in.query());
    if (outputs.size() != wanted) {
      throw new RewriteException(
          "the query behind NOT IN gives "
              + Words.count(outputs.size(), "column")
              + " that Lantrel knows, and "
              + wanted
              + " would be needed");
    }
    return outputs;
  }

  private List<Edit> within(QueryBlock inner, List<Expression> values) {
    List<SelectItem> items = inner.select().items();
    List<String> same = new ArrayList<>();
    for (int i = 0; i < values.size(); i++) {
      Expression listed = inner.outputs().get(i).value();
      same.add(reading.qualified(listed) + " = " + reading.operand(values.get(i)));
    }
    List<Edit> edits = new ArrayList<>();
    edits.add(new Edit(items.get(0).span().to(items.get(items.size() - 1).span()), "1"));
    edits.addAll(reading.edits(inner).addFilterInFront(String.join(and(), same)));
    return edits;
  }

  /** A query that is not plain becomes a table of its own. */
  private List<Edit> around(
      Condition.InQuery in, List<Expression> values, List<OutputColumn> listed) {
    boolean depends =
        reading.resolution().blocks().stream()
            .anyMatch(
                each -> each.isCorrelated() && in.query().span().contains(each.query().span()));
    boolean named =
        listed.stream().allMatch(each -> each.name().matches("[\\p{L}_][\\p{L}\\p{N}_]*"));
    if (depends || !named) {
      throw new RewriteException(
          depends
              ? "the query behind NOT IN has groups, a limit or parts, and uses tables outside of it"
              : "the query behind NOT IN has groups, a limit or parts, and a column without a name;"
                  + " give it one");
    }
    String alias = reading.aliases().like("listed");
    QueryEdits words = reading.edits(block);
    List<String> same = new ArrayList<>();
    for (int i = 0; i < values.size(); i++) {
      same.add(
          alias
              + "."
              + reading.dialect().write(listed.get(i).name())
              + " = "
              + reading.operand(values.get(i)));
    }
    Span query = in.query().span();
    return List.of(
        Edit.insert(query.start(), words.keyword("SELECT") + " 1 " + words.keyword("FROM") + " ("),
        Edit.insert(
            query.end(),
            ") " + alias + " " + words.keyword("WHERE") + " " + String.join(and(), same)));
  }

  private String and() {
    return " " + reading.edits(block).keyword("AND") + " ";
  }
}
