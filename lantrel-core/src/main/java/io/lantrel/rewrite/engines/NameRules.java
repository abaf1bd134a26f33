package io.lantrel.rewrite.engines;

import io.lantrel.resolve.Binding;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Alias;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Names in the quotes of the other product, and labels where it does not see them. */
record NameRules(Rendering rendering) implements Rendering.Rules {

  @Override
  public Optional<String> write(Node node) {
    if (node instanceof Identifier name) {
      return name(name);
    }
    if (node instanceof SelectItem.Output output && output.label() != null) {
      return reserved(output, List.of(output.label()));
    }
    if (node instanceof Alias alias) {
      return reserved(alias, List.of(alias.name()));
    }
    if (node instanceof ColumnName column) {
      Optional<String> value = column(column);
      List<Identifier> parts = new ArrayList<>(column.qualifier());
      parts.add(column.name());
      boolean known = !(rendering.reading().resolution().binding(column) instanceof Binding.Opaque);
      return value.isPresent() || !known ? value : reserved(column, parts);
    }
    return Optional.empty();
  }

  /** A name here may be a word of SQL there. */
  private Optional<String> reserved(Node node, List<Identifier> names) {
    Dialect to = rendering.to();
    List<Edit> edits = new ArrayList<>();
    for (Identifier name : names) {
      String quoted = to.write(to.stored(Identifier.of(name.text())));
      if (!name.quoted() && quoted.length() > name.text().length()) {
        edits.add(new Edit(name.span(), quoted));
      }
    }
    return edits.isEmpty() ? Optional.empty() : Optional.of(rendering.asItWas(node, edits));
  }

  private Optional<String> name(Identifier name) {
    char mark = rendering.reading().text(name).charAt(0);
    Dialect from = rendering.from();
    Dialect to = rendering.to();
    boolean quotes = mark == '"' || mark == '`' || mark == '[';
    boolean text = mark == '\'';
    if (!(quotes && name.quoted()) && !text) {
      return Optional.empty();
    }
    boolean folds = to.has(Rule.FOLDS_TO_UPPER) || to.has(Rule.FOLDS_TO_LOWER);
    String stored = from.stored(name);
    boolean needless = quotes && from.write(stored).equals(stored);
    if (needless && from.has(Rule.FOLDS_TO_UPPER) && to.has(Rule.FOLDS_TO_UPPER)) {
      return Optional.empty();
    }
    if (needless && (folds || from.has(Rule.FOLDS_TO_UPPER))) {
      // Exact in quotes there, and not so here.
      return Optional.of(to.write(stored.toLowerCase(Locale.ROOT)));
    }
    if (text && to.has(Rule.TEXTS_AS_LABELS)) {
      return Optional.empty();
    }
    char quote = to == Dialect.MARIADB ? '`' : '"';
    String doubled = name.text().replace(String.valueOf(quote), "" + quote + quote);
    return Optional.of(quote + doubled + quote);
  }

  private Optional<String> column(ColumnName column) {
    Binding binding = rendering.reading().resolution().binding(column);
    boolean bare = column.qualifier().isEmpty();
    if (bare
        && column.name().quoted()
        && binding instanceof Binding.Opaque
        && rendering.from().has(Rule.UNKNOWN_QUOTED_NAME_IS_TEXT)) {
      return Optional.of("'" + column.name().text().replace("'", "''") + "'");
    }
    if (bare && binding instanceof Binding.ToOutput label && isHidden(column)) {
      Expression value = label.output().value();
      String text = rendering.write(value);
      return Optional.of(value instanceof ColumnName ? text : "(" + text + ")");
    }
    return Optional.empty();
  }

  /** Whether a label stands where the other product does not see labels. */
  private boolean isHidden(ColumnName column) {
    QueryBlock block = rendering.block(column);
    QueryBody.Select select = block.select();
    Dialect to = rendering.to();
    boolean either =
        block.uses().stream()
            .anyMatch(use -> use.column(rendering.from().stored(column.name())).isPresent());
    if (either && block.query().orderBy().stream().noneMatch(each -> isIn(column, each))) {
      // A column has the name too, and which of the two is meant differs.
      return true;
    }
    return (isIn(column, select.where()) && !to.has(Rule.LABELS_IN_WHERE))
        || (isIn(column, select.having()) && !to.has(Rule.LABELS_IN_HAVING))
        || (select.groupBy().stream().anyMatch(each -> isIn(column, each))
            && !to.has(Rule.LABELS_IN_GROUP_BY))
        || (select.items().stream().anyMatch(each -> isIn(column, each))
            && !to.has(Rule.LABELS_IN_SELECT));
  }

  private static boolean isIn(Node node, @Nullable Node clause) {
    return clause != null && clause.span().contains(node.span());
  }
}
