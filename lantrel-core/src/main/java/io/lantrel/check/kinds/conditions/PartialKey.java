package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Reference;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.kinds.conditions.NotAReference.Equation;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.Question;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** A reference of several columns of which a join uses only some: a row meets several partners. */
public final class PartialKey implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (JoinStep step : subject.block().steps()) {
      for (Conjunct conjunct : step.conjuncts()) {
        Optional<Suspicion> partial =
            conjunct.likeness().flatMap(each -> partial(each, conjunct, step, subject));
        if (partial.isPresent()) {
          suspicions.add(partial.get());
          break;
        }
      }
    }
    List<Equation> outward =
        Equation.beyondJoins(subject).stream().filter(Equation::isOfTables).toList();
    outward.stream()
        .filter(each -> each.conjunct() != null || !isOfSiblings(each, subject))
        .flatMap(each -> partial(each, outward, subject).stream())
        .limit(1)
        .forEach(suspicions::add);
    return suspicions;
  }

  /**
   * Whether one only asks whether there is a row that belongs to the same third one: sheets of the
   * jobs that were run, say, for which a part of the key may be enough.
   */
  private static boolean isOfSiblings(Equation equation, Subject subject) {
    boolean asks = equation.conjunct() == null || subject.block().isOnlyAskedForARow();
    return asks
        && References.leadToTheSame(
            new Equated(equation.left(), equation.right()), subject.block());
  }

  /** A row outside that is compared in a part of its key, or by IN. */
  private static Optional<Suspicion> partial(
      Equation equation, List<Equation> outward, Subject subject) {
    QueryBlock block = subject.block();
    List<Link> links = block.linksAlong(new Equated(equation.left(), equation.right()));
    if (links.isEmpty()
        || links.stream().anyMatch(link -> missing(link, block, outward).isEmpty())) {
      return Optional.empty();
    }
    Link link = links.get(0);
    List<String> missing = missing(link, block, outward);
    Conjunct conjunct = equation.conjunct();
    Conclusion conclusion =
        conjunct == null
            ? concludeOfIn(link, missing)
            : conclude(Part.of(link, missing), conjunct, Optional.empty(), subject);
    return Optional.of(
        new Suspicion(
            Kind.PARTIAL_KEY,
            equation.place(),
            List.of(equation.place()),
            List.of(),
            answers ->
                Optional.of(
                    isOfSiblings(equation, subject) ? conclusion.as(Severity.NOTE) : conclusion)));
  }

  private static Conclusion concludeOfIn(Link link, List<String> missing) {
    return Conclusion.warning(
        "This IN compares only a part of the reference: any row of "
            + link.from().words()
            + " with the same value is enough, whichever "
            + link.to().rowWord()
            + " it refers to. Ask with EXISTS, and "
            + String.join(" AND ", missing)
            + " too.",
        List.of("the schema has " + link.reference().words()),
        List.of());
  }

  private static Optional<Suspicion> partial(
      Equated equated, Conjunct conjunct, JoinStep step, Subject subject) {
    QueryBlock block = subject.block();
    List<Link> links = block.linksAlong(equated);
    List<Part> parts =
        links.isEmpty()
            ? Part.through(equated, block)
            : links.stream().map(link -> Part.of(link, missing(link, block, List.of()))).toList();
    if (parts.isEmpty() || parts.stream().anyMatch(part -> part.missing().isEmpty())) {
      return Optional.empty();
    }
    Part part = parts.get(0);
    Optional<Suspicion> instead = instead(links, step, subject);
    if (instead.isPresent()) {
      return instead;
    }
    boolean refers = step.left().contains(part.from());
    Optional<Question<Long>> several =
        refers ? subject.rows().map(rows -> rows.repeated(step).count()) : Optional.empty();
    return Optional.of(
        Suspicion.asking(
            Kind.PARTIAL_KEY,
            conjunct.span(),
            List.of(step.place(), conjunct.span()),
            several,
            count -> Optional.of(conclude(part, conjunct, count, subject))));
  }

  /** The one part of a reference that the step compares with another column than that across. */
  private static Optional<Suspicion> instead(List<Link> links, JoinStep step, Subject subject) {
    QueryBlock block = subject.block();
    if (links.size() != 1 || missing(links.get(0), block, List.of()).size() != 1) {
      return Optional.empty();
    }
    Link link = links.get(0);
    String right = missing(link, block, List.of()).get(0);
    List<String> toColumns = link.reference().toColumns();
    Set<UseColumn> ends =
        IntStream.range(0, toColumns.size())
            .filter(i -> !isEquated(from(link, i), to(link, i), block))
            .mapToObj(i -> to(link, i))
            .collect(Collectors.toSet());
    return step.conjuncts().stream()
        .filter(each -> each.origin() == Conjunct.Origin.ON && !each.part())
        .filter(
            each ->
                each.equality()
                    .flatMap(pair -> pair.of(link.to()))
                    .filter(ends::contains)
                    .isPresent())
        .findFirst()
        .map(
            wrong ->
                taken(
                    wrong,
                    step,
                    Conclusion.warning(
                        subject.text(wrong.condition())
                            + " takes a part of the key of "
                            + link.to().words()
                            + " from elsewhere: "
                            + Words.one(link.from().rowWord())
                            + " refers to it by "
                            + right
                            + ". Write that.",
                        List.of("the schema has " + link.reference().words()),
                        List.of(List.of(new Edit(wrong.span(), right))))));
  }

  private static Suspicion taken(Conjunct wrong, JoinStep step, Conclusion conclusion) {
    return new Suspicion(
        Kind.PARTIAL_KEY,
        wrong.span(),
        List.of(wrong.span(), step.place()),
        List.of(),
        answers -> Optional.of(conclusion));
  }

  private static UseColumn from(Link link, int part) {
    return link.from().columnOfTable(link.reference().fromColumns().get(part)).orElseThrow();
  }

  private static UseColumn to(Link link, int part) {
    return link.to().columnOfTable(link.reference().toColumns().get(part)).orElseThrow();
  }

  /**
   * A reference of which a part is used.
   *
   * @param from the table use that refers, or the query in FROM that shows its rows
   * @param to the same of what is referred to
   * @param missing the equalities that it has and the query does not
   */
  private record Part(TableUse from, TableUse to, Reference reference, List<String> missing) {

    static Part of(Link link, List<String> missing) {
      return new Part(link.from(), link.to(), link.reference(), missing);
    }

    /** Those of tables whose rows a query in FROM shows, with all columns of the reference. */
    static List<Part> through(Equated equated, QueryBlock block) {
      Optional<UseColumn> left = BaseColumn.of(equated.left());
      Optional<UseColumn> right = BaseColumn.of(equated.right());
      boolean tables =
          equated.left().use().table().isPresent() && equated.right().use().table().isPresent();
      if (tables || left.isEmpty() || right.isEmpty()) {
        return List.of();
      }
      List<Part> parts = new ArrayList<>();
      for (Reference each : block.catalog().references()) {
        part(each, equated.left(), left.get(), equated.right(), right.get(), block)
            .ifPresent(parts::add);
        part(each, equated.right(), right.get(), equated.left(), left.get(), block)
            .ifPresent(parts::add);
      }
      return parts;
    }

    private static Optional<Part> part(
        Reference reference,
        UseColumn from,
        UseColumn baseOfFrom,
        UseColumn to,
        UseColumn baseOfTo,
        QueryBlock block) {
      int at = reference.fromColumns().indexOf(baseOfFrom.tableColumn());
      boolean along =
          at >= 0
              && baseOfFrom.use().table().filter(reference.from()::equals).isPresent()
              && baseOfTo.use().table().filter(reference.to()::equals).isPresent()
              && reference.toColumns().get(at).equals(baseOfTo.tableColumn());
      if (!along) {
        return Optional.empty();
      }
      List<String> missing = new ArrayList<>();
      for (int i = 0; i < reference.fromColumns().size(); i++) {
        List<UseColumn> ones = shown(from, baseOfFrom, reference.fromColumns().get(i));
        List<UseColumn> others = shown(to, baseOfTo, reference.toColumns().get(i));
        if (ones.isEmpty() || others.isEmpty()) {
          return Optional.empty();
        }
        boolean equal =
            i == at
                || ones.stream()
                    .anyMatch(
                        one -> others.stream().anyMatch(other -> isEquated(one, other, block)));
        if (!equal) {
          missing.add(ones.get(0).written() + " = " + others.get(0).written());
        }
      }
      return Optional.of(new Part(from.use(), to.use(), reference, missing));
    }

    /** The columns that show a column of the same rows of a table. */
    private static List<UseColumn> shown(UseColumn column, UseColumn base, String name) {
      return column.use().columns().stream()
          .filter(
              each ->
                  BaseColumn.of(each)
                      .filter(other -> other.use().equals(base.use()))
                      .filter(other -> other.tableColumn().equals(name))
                      .isPresent())
          .toList();
    }
  }

  /** The equalities that the reference has and the query does not. */
  private static List<String> missing(Link link, QueryBlock block, List<Equation> outward) {
    List<String> missing = new ArrayList<>();
    for (int i = 0; i < link.reference().fromColumns().size(); i++) {
      UseColumn one = from(link, i);
      UseColumn other = to(link, i);
      boolean equal =
          isEquated(one, other, block)
              || outward.stream().anyMatch(each -> each.equates(one, other));
      if (!equal) {
        missing.add(one.written() + " = " + other.written());
      }
    }
    return missing;
  }

  /** By conditions that hold for all rows, or by one of an outer join. */
  private static boolean isEquated(UseColumn one, UseColumn other, QueryBlock block) {
    return block.equalTo(one).contains(other)
        || block.steps().stream()
            .flatMap(step -> step.conjuncts().stream())
            .flatMap(each -> each.likeness().stream())
            .anyMatch(each -> each.isOf(one, other));
  }

  private static Conclusion conclude(
      Part part, Conjunct conjunct, Optional<Long> several, Subject subject) {
    String condition = String.join(" " + subject.edits().keyword("AND") + " ", part.missing());
    String message =
        subject.text(conjunct.condition())
            + " is only a part of the reference: "
            + Words.one(part.from().rowWord())
            + " also meets rows of "
            + part.to().words()
            + " that it does not refer to. Add "
            + condition
            + ".";
    Evidence evidence =
        new Evidence(
            several.map(rows -> Map.of("rows with several partners", rows)).orElse(Map.of()),
            List.of(),
            List.of("the schema has " + part.reference().words()));
    List<List<Edit>> repairs =
        conjunct.origin() == Conjunct.Origin.ON || conjunct.origin() == Conjunct.Origin.WHERE
            ? List.of(subject.edits().and(conjunct.condition(), condition))
            : List.of();
    return new Conclusion(Severity.WARNING, message, evidence, repairs);
  }
}
