package io.lantrel.check.kinds.order;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Value.LiteralKind;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * ORDER BY a text in single quotes, mostly meant for a name: it is the same for every row, and puts
 * nothing in order.
 */
public final class OrderedByText implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (!block.query().body().equals(block.select())) {
      return List.of();
    }
    return block.query().orderBy().stream()
        .map(OrderItem::value)
        .filter(Literal.class::isInstance)
        .map(Literal.class::cast)
        .filter(each -> each.kind() == LiteralKind.STRING && !subject.hasParameter(each))
        .map(each -> suspicion(each, subject))
        .toList();
  }

  private static Suspicion suspicion(Literal text, Subject subject) {
    Optional<String> meant = meant(text.text(), subject);
    String written = subject.text(text);
    return Suspicion.certain(
        Kind.UNSTABLE_ORDER,
        text.span(),
        Conclusion.warning(
            written
                + " is a text, and the same for every row: it puts nothing in order. "
                + meant
                    .map(name -> "Write " + name + ", without quotes, for the column.")
                    .orElse("Name the column that is meant, without quotes."),
            List.of("a name stands without quotes, or in double ones"),
            meant.stream().map(name -> List.of(new Edit(text.span(), name))).toList()));
  }

  /** The heading or the column of the name that the text is. */
  private static Optional<String> meant(String quoted, Subject subject) {
    QueryBlock block = subject.block();
    String name = quoted.replaceAll("^'|'$", "");
    return Stream.concat(
            block.outputs().stream().map(OutputColumn::name),
            block.uses().stream().flatMap(use -> use.columns().stream()).map(UseColumn::name))
        .filter(name::equalsIgnoreCase)
        .findFirst()
        .map(found -> block.dialect().write(found));
  }
}
