package io.lantrel.check.kinds.names;

import io.lantrel.catalog.Table;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.FilterJoins;
import io.lantrel.resolve.NameProblem;
import io.lantrel.resolve.NameProblem.UnknownQualifier;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Edit;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/** A table that does not exist, or that is named although it is not in FROM. */
public final class UnknownTable implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return Stream.concat(
            subject
                .problems(NameProblem.UnknownTable.class)
                .map(problem -> missing(problem, subject)),
            subject.problems(UnknownQualifier.class).map(problem -> notInFrom(problem, subject)))
        .toList();
  }

  private static Suspicion missing(NameProblem.UnknownTable problem, Subject subject) {
    List<String> tables = subject.catalog().tables().stream().map(Table::name).toList();
    Identifier name = problem.table().last();
    List<String> near = NearNames.of(name.text(), tables);
    String message =
        "There is no table "
            + subject.source().at(problem.place())
            + "."
            + (near.isEmpty()
                ? " The tables are " + Words.list(tables) + "."
                : " Close to it: " + Words.list(near) + ".");
    List<List<Edit>> repairs = near.stream().map(each -> renamed(problem, each, subject)).toList();
    return Suspicion.certain(
        Kind.UNKNOWN_TABLE,
        problem.place(),
        new Conclusion(Severity.ERROR, message, Evidence.NONE, repairs));
  }

  /** The new name, also where columns are qualified by the wrong one. */
  private static List<Edit> renamed(
      NameProblem.UnknownTable problem, String name, Subject subject) {
    List<Edit> edits = new ArrayList<>();
    edits.add(new Edit(problem.place(), subject.catalog().dialect().write(name)));
    if (problem.table().alias() == null) {
      subject
          .block()
          .query()
          .preorder()
          .flatMap(UnknownTable::qualifier)
          .filter(qualifier -> qualifier.means(problem.table().last().text()))
          .forEach(
              qualifier ->
                  edits.add(new Edit(qualifier.span(), subject.catalog().dialect().write(name))));
    }
    return edits;
  }

  private static Stream<Identifier> qualifier(Node node) {
    return node instanceof ColumnName column && !column.qualifier().isEmpty()
        ? Stream.of(column.qualifier().get(column.qualifier().size() - 1))
        : Stream.empty();
  }

  private static Suspicion notInFrom(UnknownQualifier problem, Subject subject) {
    Identifier name = problem.qualifier();
    List<String> uses = subject.block().uses().stream().map(TableUse::name).toList();
    Optional<Table> table = subject.catalog().table(name.text());
    List<JoinProposal> joins = table.map(each -> JoinProposal.to(each, subject)).orElse(List.of());
    List<List<Edit>> repairs = new ArrayList<>();
    StringBuilder message = new StringBuilder();
    Optional<FromItem.Join> filter = filter(name, subject);
    if (table.isPresent()) {
      message.append("The table ").append(name.text()).append(" is not in this FROM.");
      joins.forEach(
          join -> message.append(" It would be joined on ").append(join.condition()).append('.'));
      joins.forEach(join -> repairs.add(List.of(join.edit())));
    } else if (filter.isPresent()) {
      String way = filter.get().way() == FromItem.Way.ANTI ? "ANTI" : "SEMI";
      message.append("Behind ").append(way).append(" JOIN nothing of ").append(name.text());
      message.append(" can be named: it only picks rows of the other side. Write JOIN to show it.");
    } else {
      Dialect dialect = subject.catalog().dialect();
      List<String> having =
          subject.block().uses().stream()
              .filter(use -> use.column(problem.column().name().text()).isPresent())
              .map(TableUse::name)
              .toList();
      message.append("No table in this FROM goes by ").append(name.text()).append("; there ");
      message.append(uses.size() == 1 ? "is " : "are ").append(Words.list(uses)).append('.');
      NearNames.of(name.text(), having).forEach(near -> repairs.add(rename(name, near, dialect)));
      having.forEach(each -> repairs.add(rename(name, each, dialect)));
    }
    return Suspicion.certain(
        Kind.UNKNOWN_TABLE,
        problem.place(),
        new Conclusion(Severity.ERROR, message.toString(), Evidence.NONE, repairs));
  }

  /** The join that only asks for a partner in a table of this name. */
  private static Optional<FromItem.Join> filter(Identifier name, Subject subject) {
    return subject.block().uses().stream()
        .filter(use -> subject.block().dialect().means(name, use.name()))
        .flatMap(use -> FilterJoins.around(subject.block().select().from(), use).stream())
        .findFirst();
  }

  private static List<Edit> rename(Identifier name, String to, Dialect dialect) {
    return List.of(new Edit(name.span(), dialect.write(to)));
  }
}
