package io.lantrel.check.kinds.names;

import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.NameProblem;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Two table uses under one name. The repair gives the second one the name of its role, and moves
 * over the columns that can only be its own: those that the first table does not have, and the end
 * of a reference that starts at the first.
 */
public final class RepeatedAlias implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject
        .problems(NameProblem.RepeatedAlias.class)
        .map(problem -> suspicion(problem, subject))
        .toList();
  }

  private static Suspicion suspicion(NameProblem.RepeatedAlias problem, Subject subject) {
    TableUse first = problem.first();
    boolean sameTable = first.table().isPresent() && first.table().equals(problem.second().table());
    String name = newName(problem, subject);
    String message =
        (sameTable
                ? first.rowWord() + " is here twice under one name"
                : first.rowWord()
                    + " and "
                    + problem.second().rowWord()
                    + " both go by "
                    + first.name())
            + ", so nobody can say which is meant; give the second an alias, as in "
            + problem.second().rowWord()
            + " "
            + name
            + ".";
    return Suspicion.certain(
        Kind.REPEATED_ALIAS,
        problem.place(),
        new Conclusion(
            severity(problem, subject),
            message,
            Evidence.NONE,
            List.of(edits(problem, name, subject))));
  }

  private static Optional<Reference> reference(TableUse from, TableUse to, Subject subject) {
    Optional<Table> source = from.table();
    Optional<Table> target = to.table();
    return subject.catalog().references().stream()
        .filter(each -> source.filter(each.from()::equals).isPresent())
        .filter(each -> target.filter(each.to()::equals).isPresent())
        .findFirst();
  }

  private static String newName(NameProblem.RepeatedAlias problem, Subject subject) {
    TableUse second = problem.second();
    String wanted =
        reference(problem.first(), second, subject).map(Reference::role).orElse(second.rowWord());
    List<String> taken =
        subject.block().uses().stream().map(use -> Identifier.key(use.name())).toList();
    String name = wanted;
    for (int i = 2; taken.contains(Identifier.key(name)); i++) {
      name = wanted + i;
    }
    return name;
  }

  private static List<Edit> edits(NameProblem.RepeatedAlias problem, String name, Subject subject) {
    TableUse second = problem.second();
    List<Edit> edits = new ArrayList<>();
    boolean aliased = second.item() instanceof FromItem.TableName table && table.alias() == null;
    edits.add(
        aliased
            ? Edit.insert(second.nameSpan().end(), " " + subject.catalog().dialect().write(name))
            : new Edit(second.nameSpan(), subject.catalog().dialect().write(name)));
    subject
        .block()
        .query()
        .preorder()
        .filter(ColumnName.class::isInstance)
        .map(ColumnName.class::cast)
        .filter(column -> isQualifiedBy(column, second.name()))
        .filter(column -> isOnly(column, problem))
        .forEach(column -> edits.add(renamed(column, name, subject)));
    ends(problem, subject).forEach(column -> edits.add(renamed(column, name, subject)));
    return edits.stream().distinct().toList();
  }

  private static boolean isOnly(ColumnName column, NameProblem.RepeatedAlias problem) {
    String name = column.name().text();
    return problem.first().column(name).isEmpty() && problem.second().column(name).isPresent();
  }

  /** In an equality written along a reference from the first to the second: its end. */
  private static Stream<ColumnName> ends(NameProblem.RepeatedAlias problem, Subject subject) {
    Optional<Reference> reference = reference(problem.first(), problem.second(), subject);
    if (reference.isEmpty()) {
      return Stream.empty();
    }
    return subject
        .block()
        .query()
        .preorder()
        .filter(Comparison.class::isInstance)
        .map(Comparison.class::cast)
        .flatMap(comparison -> end(comparison, reference.get(), problem.second().name()));
  }

  private static Stream<ColumnName> end(
      Comparison comparison, Reference reference, String qualifier) {
    if (comparison.left() instanceof ColumnName left
        && comparison.right() instanceof ColumnName right
        && isQualifiedBy(left, qualifier)
        && isQualifiedBy(right, qualifier)) {
      String from = reference.fromColumns().get(0);
      String to = reference.toColumns().get(0);
      if (left.name().means(from) && right.name().means(to)) {
        return Stream.of(right);
      }
      if (right.name().means(from) && left.name().means(to)) {
        return Stream.of(left);
      }
    }
    return Stream.empty();
  }

  /** Some engines mind only when the name is used. */
  private static Severity severity(NameProblem.RepeatedAlias problem, Subject subject) {
    boolean used =
        subject.block().query().preorder().anyMatch(node -> names(node, problem.second().name()));
    return used
        ? subject.errorUnless(Rule.FIRST_OF_ONE_NAME)
        : subject.errorUnless(Rule.REPEATED_ALIASES);
  }

  private static boolean names(Node node, String alias) {
    if (node instanceof SelectItem.AllColumns all) {
      return all.qualifier().isEmpty()
          || all.qualifier().get(all.qualifier().size() - 1).means(alias);
    }
    return node instanceof ColumnName column && isQualifiedBy(column, alias);
  }

  private static boolean isQualifiedBy(ColumnName column, String name) {
    return !column.qualifier().isEmpty()
        && column.qualifier().get(column.qualifier().size() - 1).means(name);
  }

  private static Edit renamed(ColumnName column, String name, Subject subject) {
    return new Edit(
        column.qualifier().get(column.qualifier().size() - 1).span(),
        subject.catalog().dialect().write(name));
  }
}
