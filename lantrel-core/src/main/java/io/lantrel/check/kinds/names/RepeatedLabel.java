package io.lantrel.check.kinds.names;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** Two columns of a result under one heading, which show different things. */
public final class RepeatedLabel implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (!subject.resolution().root().equals(block)) {
      return List.of();
    }
    Map<String, SelectItem.Output> seen = new HashMap<>();
    for (SelectItem item : block.select().items()) {
      if (item instanceof SelectItem.Output output && heading(output).isPresent()) {
        String key = block.dialect().key(heading(output).get());
        SelectItem.Output first = seen.putIfAbsent(key, output);
        if (first != null && !isSame(first, output, block)) {
          return List.of(suspicion(first, output, subject));
        }
      }
    }
    return List.of();
  }

  private static Optional<Identifier> heading(SelectItem.Output output) {
    return Optional.ofNullable(output.label())
        .or(
            () ->
                output.value() instanceof ColumnName name
                    ? Optional.of(name.name())
                    : Optional.empty());
  }

  private static boolean isSame(SelectItem.Output one, SelectItem.Output other, QueryBlock block) {
    Optional<UseColumn> first = block.column(one.value());
    return first.isPresent() && first.get().equals(block.column(other.value()).orElse(null));
  }

  private static Suspicion suspicion(
      SelectItem.Output first, SelectItem.Output second, Subject subject) {
    QueryBlock block = subject.block();
    Optional<UseColumn> one = block.column(first.value());
    Optional<UseColumn> other = block.column(second.value());
    boolean roles =
        one.isPresent() && other.isPresent() && one.get().use().isOfTable(other.get().use());
    String heading = heading(second).orElseThrow().text();
    Optional<String> better =
        other
            .filter(column -> second.label() == null)
            .map(
                column ->
                    (roles ? column.use().name() : column.use().rowWord()).toLowerCase(Locale.ROOT)
                        + "_"
                        + column.name().toLowerCase(Locale.ROOT))
            .filter(name -> name.matches("[a-z_][a-z0-9_]*"));
    String message =
        "Two columns come under the heading "
            + heading
            + ": "
            + subject.text(first.value())
            + " and "
            + subject.text(second.value())
            + ". Who reads them cannot tell which is which; give one another heading"
            + better.map(name -> ", as " + name).orElse("")
            + ".";
    List<List<Edit>> repairs =
        better.stream()
            .map(
                name ->
                    List.of(
                        Edit.insert(
                            second.value().span().end(), subject.edits().beforeLabel() + name)))
            .toList();
    return Suspicion.certain(
        Kind.REPEATED_LABEL,
        second.span(),
        new Conclusion(
            Severity.NOTE,
            message,
            Evidence.facts(List.of("both are called " + heading)),
            repairs));
  }
}
