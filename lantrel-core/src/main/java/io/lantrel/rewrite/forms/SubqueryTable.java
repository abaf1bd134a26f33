package io.lantrel.rewrite.forms;

import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.rewrite.forms.Ties.Tie;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * A subquery as a table of FROM: what ties it to the row outside becomes columns of it, which a
 * join compares.
 */
final class SubqueryTable {

  private final Reading reading;
  private final QueryBlock inner;
  private final List<Tie> ties;
  private final String alias;
  private final List<String> keys = new ArrayList<>();
  private final List<String> items = new ArrayList<>();
  private final List<String> labels = new ArrayList<>();
  private final Set<String> taken = new HashSet<>();

  /**
   * @param ties what is compared; those that stand in its WHERE are taken out there
   */
  SubqueryTable(Reading reading, QueryBlock inner, List<Tie> ties, String alias) {
    this.reading = reading;
    this.inner = inner;
    this.ties = List.copyOf(ties);
    this.alias = alias;
    for (Tie tie : ties) {
      keys.add(key(tie.inner()));
    }
  }

  private String key(Expression value) {
    String text = reading.text(value);
    String label = inner.column(value).map(UseColumn::name).orElse("key");
    String name = free(label);
    boolean plain = inner.column(value).isPresent() && name.equals(label);
    labels.add(name);
    items.add(plain ? text : text + " AS " + inner.dialect().write(name));
    return alias + "." + inner.dialect().write(name);
  }

  /** Shows one more value. Returns what it is called from outside. */
  String show(String value, String wanted) {
    String name = free(wanted);
    labels.add(name);
    items.add(value + " AS " + inner.dialect().write(name));
    return alias + "." + inner.dialect().write(name);
  }

  private String free(String wanted) {
    String name = wanted;
    for (int i = 2; !taken.add(inner.dialect().key(name)); i++) {
      name = wanted + i;
    }
    return name;
  }

  /** What its columns are called. */
  List<String> labels() {
    return List.copyOf(labels);
  }

  /** What the join compares. */
  String condition(String and) {
    List<String> same = new ArrayList<>();
    for (int i = 0; i < ties.size(); i++) {
      same.add(keys.get(i) + " = " + reading.operand(ties.get(i).outer()));
    }
    return String.join(and, same);
  }

  /** One row for each combination of what is compared, and nothing else shown. */
  String distinct() {
    QueryBody.Select select = inner.select();
    return table(select.distinct() ? "" : reading.edits(inner).keyword("DISTINCT") + " ", "");
  }

  /** A group for each combination of what is compared. */
  String grouped() {
    String by = String.join(", ", ties.stream().map(tie -> reading.text(tie.inner())).toList());
    return table(
        "", reading.edits(inner).gap() + reading.edits(inner).keyword("GROUP BY") + " " + by);
  }

  /** Its rows as they are. */
  String plain() {
    return table("", "");
  }

  private String table(String head, String tail) {
    List<SelectItem> shown = inner.select().items();
    Span list = shown.get(0).span().to(shown.get(shown.size() - 1).span());
    List<Edit> edits = new ArrayList<>();
    edits.add(new Edit(list, head + String.join(", ", items)));
    List<Expression> terms = reading.edits(inner).terms();
    List<Expression> gone = ties.stream().map(Tie::whole).filter(terms::contains).toList();
    if (!gone.isEmpty()) {
      edits.addAll(reading.edits(inner).removeTerms(gone));
    }
    return "(" + reading.edited(inner.query(), edits) + tail + ") " + alias;
  }
}
