package io.lantrel.check.kinds.names;

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
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Edit;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/** A column that the tables here do not have: where it is instead, or what is close to it. */
public final class UnknownColumn implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return Stream.concat(
            subject
                .problems(NameProblem.UnknownColumn.class)
                .map(problem -> suspicion(problem, subject)),
            subject.problems(NameProblem.NoSuchPosition.class).map(UnknownColumn::position))
        .toList();
  }

  private static Suspicion position(NameProblem.NoSuchPosition problem) {
    String message =
        problem.clause()
            + " "
            + problem.position().text()
            + " means the column at that position, and the query shows "
            + Words.count(problem.columns(), "column")
            + (problem.clause().equals("ORDER BY")
                ? " only. Name what the rows are to be put in order by."
                : " only. Name what the rows are to be grouped by.");
    return Suspicion.certain(
        Kind.UNKNOWN_COLUMN,
        problem.place(),
        new Conclusion(Severity.ERROR, message, Evidence.NONE, List.of()));
  }

  private static Suspicion suspicion(NameProblem.UnknownColumn problem, Subject subject) {
    ColumnName column = problem.column();
    String name = column.name().text();
    Optional<UsingName> using =
        UsingName.at(column.span(), column.name(), subject)
            .filter(each -> each.looksAtFirstTables(subject));
    List<TableUse> elsewhere =
        subject.block().uses().stream()
            .filter(use -> !problem.searched().contains(use) && use.column(name).isPresent())
            .filter(use -> using.isEmpty() || using.get().onOneSide(use, problem.searched().get(0)))
            .toList();
    List<Table> notJoined =
        subject.catalog().tables().stream()
            .filter(table -> table.column(name).isPresent())
            .filter(table -> isNotJoined(table, subject))
            .toList();
    List<String> near =
        NearNames.of(
            name,
            problem.searched().stream()
                .flatMap(use -> use.columns().stream())
                .map(UseColumn::name)
                .toList());
    Dialect dialect = subject.catalog().dialect();
    List<String> sentences = new ArrayList<>(List.of(missing(problem)));
    List<List<Edit>> repairs = new ArrayList<>();
    using.ifPresent(
        each -> {
          sentences.add(0, "USING looks only at the first table of each side here.");
          repairs.addAll(each.conditions(subject));
        });
    for (TableUse use : elsewhere) {
      sentences.add(use.words() + " has it" + (using.isPresent() ? "; write ON." : "."));
      repairs.add(List.of(new Edit(column.span(), use.written() + "." + dialect.write(name))));
    }
    if (!near.isEmpty()) {
      sentences.add("Close to it: " + Words.list(near) + ".");
      near.forEach(
          each -> repairs.add(List.of(new Edit(column.name().span(), dialect.write(each)))));
    }
    notJoined.forEach(table -> reach(table, column, subject, sentences, repairs));
    return Suspicion.certain(
        Kind.UNKNOWN_COLUMN,
        problem.place(),
        new Conclusion(
            Severity.ERROR, String.join(" ", sentences), columns(problem.searched()), repairs));
  }

  private static String missing(NameProblem.UnknownColumn problem) {
    String name = problem.column().name().text();
    List<String> tables = problem.searched().stream().map(TableUse::words).toList();
    return switch (tables.size()) {
      case 0 -> "There is no table here that could have a column " + name + ".";
      case 1 -> tables.get(0) + " has no column " + name + ".";
      default -> "None of " + Words.list(tables) + " has a column " + name + ".";
    };
  }

  private static Evidence columns(List<TableUse> searched) {
    return Evidence.facts(
        searched.stream()
            .map(
                use ->
                    use.words()
                        + " has the columns "
                        + Words.list(use.columns().stream().map(UseColumn::name).toList()))
            .toList());
  }

  private static boolean isNotJoined(Table table, Subject subject) {
    return subject.block().uses().stream()
        .noneMatch(use -> use.table().filter(table::equals).isPresent());
  }

  private static void reach(
      Table table,
      ColumnName column,
      Subject subject,
      List<String> sentences,
      List<List<Edit>> repairs) {
    Dialect dialect = subject.catalog().dialect();
    String name = column.name().text();
    List<JoinProposal> joins = JoinProposal.to(table, subject);
    if (!joins.isEmpty()) {
      sentences.add(
          "The column "
              + name
              + " is in "
              + table.name()
              + ", which is not joined here; join it on "
              + joins.get(0).condition()
              + ".");
    }
    for (JoinProposal join : joins) {
      repairs.add(
          List.of(
              new Edit(column.span(), dialect.write(table.name()) + "." + dialect.write(name)),
              join.edit()));
    }
  }
}
