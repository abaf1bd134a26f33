package io.lantrel.edit;

import io.lantrel.catalog.Catalog;
import io.lantrel.resolve.NameProblem;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.Resolver;
import io.lantrel.sql.ParameterValues;
import io.lantrel.sql.Place;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.Statement;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.SyntaxProblem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import java.util.List;
import java.util.Optional;

/**
 * A text that is one query whose names all mean something.
 *
 * @param source the text
 * @param query its tree
 * @param resolution what its names mean
 */
public record OneQuery(SourceText source, Query query, Resolution resolution) {

  /**
   * Reads it.
   *
   * @throws SyntaxException if it is something else; the message says what, and where
   */
  public static OneQuery read(String text, Catalog catalog) {
    return read(text, ParameterValues.NONE, catalog);
  }

  /** The same with values for its parameters. */
  public static OneQuery read(String text, ParameterValues values, Catalog catalog) {
    SourceText source = new SourceText(text);
    List<Statement> statements = SqlReader.read(source, catalog.dialect());
    if (statements.size() != 1) {
      throw fault(
          new Span(0, text.length()),
          "one query is wanted, and here "
              + (statements.size() > 1 ? "are " + statements.size() + " statements" : "is none"));
    }
    return of(source, statements.get(0), values, catalog);
  }

  /**
   * A statement of a text.
   *
   * @param values for its parameters
   * @throws SyntaxException if it is something else; the message says what, and where
   */
  public static OneQuery of(
      SourceText source, Statement statement, ParameterValues values, Catalog catalog) {
    if (!(statement instanceof Statement.QueryStatement read)) {
      throw fault(statement.span(), unread(source, statement));
    }
    Query query = values.in(read.query());
    Resolution resolution = Resolver.resolve(query, catalog);
    Optional<NameProblem> wrong = resolution.problems().stream().findFirst();
    if (wrong.isPresent()) {
      throw fault(wrong.get().place(), wrong(source, wrong.get()));
    }
    return new OneQuery(source, query, resolution);
  }

  /** The same; empty if it is something else. */
  public static Optional<OneQuery> ifAny(String text, Catalog catalog) {
    try {
      return Optional.of(read(text, catalog));
    } catch (SyntaxException somethingElse) {
      return Optional.empty();
    }
  }

  private static SyntaxException fault(Span place, String message) {
    return new SyntaxException(new SyntaxProblem(place, message, List.of()));
  }

  /** Why a statement is no query that was read, in a sentence with its place. */
  private static String unread(SourceText source, Statement statement) {
    if (statement instanceof Statement.UnreadStatement unread) {
      SyntaxProblem first = unread.problems().get(0);
      return at(source, first.place()) + first.message();
    }
    if (statement instanceof Statement.OtherStatement other) {
      return at(source, other.keyword()) + "this is no query but " + other.words();
    }
    throw new IllegalArgumentException("this is a query");
  }

  /** What is wrong with a name, in a sentence with its place. */
  private static String wrong(SourceText source, NameProblem problem) {
    return at(source, problem.place()) + words(source.at(problem.place()), problem);
  }

  private static String at(SourceText source, Span span) {
    Place place = source.place(span);
    return "line " + place.line() + ", column " + place.column() + ": ";
  }

  private static String words(String name, NameProblem problem) {
    if (problem instanceof NameProblem.UnknownTable) {
      return "there is no table " + name;
    }
    if (problem instanceof NameProblem.UnknownQualifier) {
      return "no table of FROM goes by " + name;
    }
    if (problem instanceof NameProblem.UnknownColumn column) {
      if (column.searched().size() == 1) {
        return column.searched().get(0).words() + " has no column " + name;
      }
      return "no table of FROM has the column " + name;
    }
    if (problem instanceof NameProblem.AmbiguousColumn) {
      return name + " is a column of several tables of FROM";
    }
    if (problem instanceof NameProblem.HiddenByAlias) {
      return name + " has an alias here, and goes by nothing else";
    }
    if (problem instanceof NameProblem.NotVisibleYet hidden) {
      boolean earlier = hidden.use().nameSpan().start() < hidden.place().start();
      return earlier
          ? name
              + " is of a table before a comma, and JOIN binds more tightly than the comma; write"
              + " CROSS JOIN in place of the comma"
          : name + " is of a table that is joined further on; move the condition there";
    }
    if (problem instanceof NameProblem.RepeatedAlias) {
      return "two tables go by " + name;
    }
    if (problem instanceof NameProblem.UngroupedColumns) {
      return name + " is shown of groups that need not agree in it";
    }
    if (problem instanceof NameProblem.NoSuchPosition) {
      return "the query shows no column at position " + name;
    }
    return "there can be no aggregate here, " + name;
  }
}
