package io.lantrel.check.inspection;

import io.lantrel.catalog.Catalog;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.kinds.AllChecks;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.Engine;
import io.lantrel.portability.Difference;
import io.lantrel.portability.Portability;
import io.lantrel.probe.Answers;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Promises;
import io.lantrel.resolve.Binding;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.Resolver;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.Statement;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;

/**
 * What the engines would make of a query that it shall run on as well: what they lack or take
 * otherwise, and what they would refuse when they read it by their own rules.
 */
final class OtherEngines {

  private final SourceText source;
  private final Statement.QueryStatement statement;
  private final Catalog catalog;
  private final Set<Engine> engines;
  private final SourceText passage;

  OtherEngines(
      SourceText source, Statement.QueryStatement statement, Catalog catalog, Set<Engine> engines) {
    this.source = source;
    this.statement = statement;
    this.catalog = catalog;
    this.engines = EnumSet.noneOf(Engine.class);
    this.engines.addAll(engines);
    this.engines.removeIf(each -> each.dialect() == catalog.dialect());
    this.passage = passage();
  }

  /** What is told of it, in the order of the text: one finding for each place. */
  List<Suspicion> suspect(Resolution resolution) {
    List<Difference> found =
        new ArrayList<>(
            new Portability(source, resolution, engines).differences(resolution.result().query()));
    found.addAll(refusals(List.copyOf(found)));
    return findings(found, "what is known of these engines; nothing was run there");
  }

  /** What of a query its own engine does not have; nothing if that is not known of it. */
  static List<Suspicion> lackedByOwn(SourceText source, Resolution resolution) {
    return findings(
        new Portability(source, resolution).differences(resolution.result().query()),
        "what is known of this engine");
  }

  private static List<Suspicion> findings(List<Difference> found, String fact) {
    Map<Span, List<Difference>> byPlace = new LinkedHashMap<>();
    found.forEach(
        each -> byPlace.computeIfAbsent(each.place(), key -> new ArrayList<>()).add(each));
    return byPlace.values().stream().map(each -> finding(each, fact)).toList();
  }

  private static Suspicion finding(List<Difference> here, String fact) {
    String message =
        here.stream().map(Difference::message).distinct().collect(Collectors.joining(" "));
    List<List<Edit>> repairs =
        here.stream().map(Difference::mend).filter(each -> !each.isEmpty()).distinct().toList();
    return Suspicion.certain(
        Kind.NOT_IN_ENGINE,
        here.get(0).place(),
        new Conclusion(Severity.WARNING, message, Evidence.facts(List.of(fact)), repairs));
  }

  /** Errors that are none here, put together where several engines have the same one. */
  private List<Difference> refusals(List<Difference> known) {
    Map<Span, Map<String, Set<Engine>>> errors = new LinkedHashMap<>();
    for (Engine engine : engines) {
      List<Span> told =
          known.stream()
              .filter(each -> each.engines().contains(engine))
              .map(Difference::place)
              .toList();
      errors(engine, told)
          .forEach(
              (place, message) ->
                  errors
                      .computeIfAbsent(place, key -> new LinkedHashMap<>())
                      .computeIfAbsent(message, key -> new TreeSet<>())
                      .add(engine));
    }
    List<Difference> refusals = new ArrayList<>();
    errors.forEach(
        (place, messages) ->
            messages.forEach(
                (message, which) ->
                    refusals.add(
                        new Difference(
                            place,
                            which,
                            "Not so in "
                                + Words.list(which.stream().map(Engine::title).toList())
                                + ": "
                                + message,
                            List.of()))));
    return refusals;
  }

  /**
   * What is an error by the rules of an engine, or is read otherwise by them.
   *
   * @param told where something was found already that it lacks; what follows from that is not told
   */
  private Map<Span, String> errors(Engine engine, List<Span> told) {
    Catalog there = catalog.in(engine.dialect());
    List<Statement> statements = SqlReader.read(passage, there.dialect());
    Map<Span, String> errors = new LinkedHashMap<>();
    if (statements.size() == 1 && statements.get(0) instanceof Statement.QueryStatement query) {
      Resolution resolution = Resolver.resolve(query.query(), there);
      Map<QueryBlock, JoinedRows> rows = new IdentityHashMap<>();
      for (QueryBlock block : resolution.blocks()) {
        Subject subject = new Subject(passage, there, resolution, block, Promises.KEYS, rows);
        AllChecks.OF_NAMES.stream()
            .flatMap(check -> check.suspect(subject).stream())
            .forEach(each -> addError(each, told, errors));
      }
      if (told.isEmpty() && errors.isEmpty() && !query.query().equals(statement.query())) {
        FirstDifference.between(statement.query(), query.query())
            .filter(place -> !isTextOnBothSides(place, resolution))
            .ifPresent(
                place -> errors.put(place, "by its rules of reading this means something else."));
      }
    } else if (told.isEmpty()) {
      statements.stream()
          .filter(Statement.UnreadStatement.class::isInstance)
          .flatMap(each -> ((Statement.UnreadStatement) each).problems().stream())
          .findFirst()
          .ifPresentOrElse(
              problem -> errors.put(problem.place(), sentence(problem.message())),
              () -> errors.put(statement.span(), "there it is no single query."));
    }
    return errors;
  }

  /** In double quotes, and nothing has that name: such a name is a text, as the text is. */
  private boolean isTextOnBothSides(Span place, Resolution there) {
    return source.at(place).startsWith("\"")
        && there
            .result()
            .query()
            .preorder()
            .filter(ColumnName.class::isInstance)
            .map(ColumnName.class::cast)
            .filter(each -> each.span().equals(place))
            .noneMatch(each -> there.binding(each) instanceof Binding.ToColumn);
  }

  private static void addError(Suspicion suspicion, List<Span> told, Map<Span, String> errors) {
    Span place = suspicion.place();
    boolean follows = told.stream().anyMatch(each -> each.contains(place) || place.contains(each));
    if (!follows) {
      suspicion
          .conclude()
          .apply(new Answers())
          .filter(each -> each.severity() == Severity.ERROR)
          .ifPresent(each -> errors.put(place, each.message()));
    }
  }

  /**
   * The statement alone, at its place among blanks, to the end of its line: what is a comment there
   * may be none elsewhere.
   */
  private SourceText passage() {
    Span span = statement.span();
    String all = source.text();
    int end = span.end();
    while (end < all.length() && all.charAt(end) != '\n') {
      end++;
    }
    SourceText line = blankBefore(all.substring(span.start(), end));
    return SqlReader.read(line, catalog.dialect()).size() == 1
        ? line
        : blankBefore(source.at(span));
  }

  private SourceText blankBefore(String text) {
    return new SourceText(" ".repeat(statement.span().start()) + text);
  }

  private static String sentence(String message) {
    String capital = message.substring(0, 1).toUpperCase(Locale.ROOT);
    return capital + message.substring(1) + (message.endsWith(".") ? "" : ".");
  }
}
