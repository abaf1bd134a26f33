package io.lantrel.check.kinds.conditions;

import io.lantrel.check.kinds.conditions.NotAReference.Equation;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/** What can stand in the place of an equation that follows no reference. */
final class NotAReferenceRepairs {

  private final Equation equation;
  private final Subject subject;
  private final List<String> conditions;

  NotAReferenceRepairs(Equation equation, Subject subject) {
    this.equation = equation;
    this.subject = subject;
    this.conditions = direct().or(this::throughAnother).or(this::besideIt).orElse(List.of());
  }

  /** The conditions that would be right, as text; empty if a further table is needed. */
  List<String> conditions() {
    return conditions;
  }

  private boolean asWritten() {
    return equation.left().equals(equation.writtenLeft())
        && equation.right().equals(equation.writtenRight());
  }

  private Optional<List<String>> direct() {
    if (equation.isOfRecursion()) {
      return recursive();
    }
    List<Link> links = asWritten() ? equation.links() : List.of();
    return links.isEmpty()
        ? Optional.empty()
        : Optional.of(links.stream().map(Link::condition).distinct().toList());
  }

  /** From a row to those that refer to it: the way a recursion goes that begins at the top. */
  private Optional<List<String>> recursive() {
    UseColumn table =
        equation.writtenLeft().use().table().isPresent()
            ? equation.writtenLeft()
            : equation.writtenRight();
    UseColumn own =
        table.equals(equation.writtenLeft()) ? equation.writtenRight() : equation.writtenLeft();
    List<String> found =
        subject.catalog().references().stream()
            .filter(each -> each.isSelfReference() && each.fromColumns().size() == 1)
            .filter(each -> table.use().table().filter(each.from()::equals).isPresent())
            .flatMap(
                each ->
                    table.use().columns().stream()
                        .filter(column -> column.tableColumn().equals(each.fromColumns().get(0))))
            .map(column -> column.written() + " = " + own.written())
            .toList();
    return found.isEmpty() ? Optional.empty() : Optional.of(found);
  }

  /** Through a table that the query has joined already. */
  private Optional<List<String>> throughAnother() {
    JoinStep step = equation.step();
    if (step == null || !asWritten()) {
      return Optional.empty();
    }
    QueryBlock block = subject.block();
    UseColumn joined =
        step.right().contains(equation.left().use()) ? equation.left() : equation.right();
    List<String> found = new ArrayList<>();
    for (TableUse other : step.left()) {
      if (!other.equals(equation.left().use()) && !other.equals(equation.right().use())) {
        block.linksBetween(joined.use(), other).forEach(link -> found.add(link.condition()));
      }
    }
    return found.isEmpty() ? Optional.empty() : Optional.of(found.stream().distinct().toList());
  }

  /** By the one other column of either side that refers to where the column across refers to. */
  private Optional<List<String>> besideIt() {
    if (equation.conjunct() == null || equation.isOfRecursion()) {
      return Optional.empty();
    }
    UseColumn left = equation.writtenLeft();
    UseColumn right = equation.writtenRight();
    List<String> found = new ArrayList<>();
    alike(equation.left(), right).forEach(each -> found.add(left.written() + " = " + each));
    alike(equation.right(), left).forEach(each -> found.add(each + " = " + right.written()));
    return found.size() == 1 ? Optional.of(found) : Optional.empty();
  }

  /** The other columns beside one that lead to the same as the column given. */
  private List<String> alike(UseColumn reference, UseColumn beside) {
    return beside.use().columns().stream()
        .filter(each -> !each.equals(beside))
        .filter(
            each ->
                BaseColumn.of(each)
                    .map(base -> new Equated(base, reference))
                    .filter(pair -> References.leadToTheSame(pair, subject.block()))
                    .isPresent())
        .map(UseColumn::written)
        .toList();
  }

  List<List<Edit>> edits() {
    if (conditions.size() != 1) {
      return List.of();
    }
    if (equation.step() != null && equation.conjunct() != null) {
      return Instead.of(equation.conjunct(), equation.step(), conditions.get(0), subject);
    }
    if (equation.conjunct() != null) {
      return List.of(
          List.of(
              new Edit(
                  equation.conjunct().span(),
                  Instead.text(equation.conjunct(), conditions.get(0), subject))));
    }
    return ofIn();
  }

  /** {@code s.id IN (SELECT d.id …)}: the other column of the subquery, if the value is the key. */
  private List<List<Edit>> ofIn() {
    UseColumn value = equation.left();
    return equation.links().stream()
        .flatMap(
            link -> {
              List<String> from = link.reference().fromColumns();
              boolean fits =
                  from.size() == 1
                      && link.to().equals(value.use())
                      && link.reference().toColumns().get(0).equals(value.tableColumn());
              return fits ? link.from().columnOfTable(from.get(0)).stream() : Stream.empty();
            })
        .map(column -> List.of(new Edit(equation.place(), column.written())))
        .toList();
  }
}
