package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Two tables joined by a reference OR something else that many rows share: either part of a
 * composite reference, or columns that are the key of neither. Rows meet that do not belong
 * together. Two references, or two ways to find the one row by a key, are a choice on purpose.
 */
public final class ReferenceOrElse implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (Conjunct conjunct : subject.block().conjuncts()) {
      if (conjunct.condition() instanceof Condition.Or or) {
        equalities(or, subject.block())
            .flatMap(all -> choice(all, subject.block()))
            .ifPresent(choice -> suspicions.add(suspicion(or, choice, conjunct, subject)));
      }
    }
    return suspicions;
  }

  /**
   * A term of the OR.
   *
   * @param links the references that it follows, or is a part of
   */
  private record Term(Expression condition, Equated equated, List<Link> links) {
    boolean isPart() {
      return links.stream().anyMatch(each -> each.reference().fromColumns().size() > 1);
    }

    boolean isReference() {
      return links.stream().anyMatch(each -> each.reference().fromColumns().size() == 1);
    }

    boolean isOfManyRows(Catalog catalog) {
      return links.isEmpty()
          && !isKey(equated.left())
          && !isKey(equated.right())
          && Collections.disjoint(
              referred(equated.left(), catalog), referred(equated.right(), catalog));
    }

    /**
     * What a column refers to by itself: two that name one and the same thing are compared on
     * purpose. A part of a composite reference names nothing alone.
     */
    private static Set<Table> referred(UseColumn column, Catalog catalog) {
      return catalog.references().stream()
          .filter(each -> column.use().table().filter(each.from()::equals).isPresent())
          .filter(each -> each.fromColumns().equals(List.of(column.tableColumn())))
          .map(Reference::to)
          .collect(Collectors.toSet());
    }

    private static boolean isKey(UseColumn column) {
      return column.use().keys().stream()
          .map(Key::columns)
          .anyMatch(columns -> columns.equals(List.of(column.name())));
    }

    Set<TableUse> uses() {
      return Set.of(equated.left().use(), equated.right().use());
    }
  }

  /**
   * What there is to choose from.
   *
   * @param parts whether all are parts of one composite reference
   * @param belongs what must hold for two rows that belong together
   */
  private record Choice(List<Term> terms, boolean parts, List<Term> belongs) {}

  /** Its terms, if each equates columns of the same two tables; one may be outside. */
  private static Optional<List<Term>> equalities(Condition.Or or, QueryBlock block) {
    List<Term> terms = new ArrayList<>();
    for (Expression each : or.terms()) {
      Optional<Equated> equated =
          block
              .alike(each)
              .filter(both -> block.isOwn(both.left()) || block.isOwn(both.right()))
              .filter(both -> both.left().use() != both.right().use());
      if (equated.isEmpty()) {
        return Optional.empty();
      }
      Term term = new Term(each, equated.get(), block.linksAlong(equated.get()));
      if (!terms.isEmpty() && !term.uses().equals(terms.get(0).uses())) {
        return Optional.empty();
      }
      terms.add(term);
    }
    return Optional.of(terms);
  }

  private static Optional<Choice> choice(List<Term> terms, QueryBlock block) {
    if (terms.stream().allMatch(each -> each.isPart() && !each.isReference())) {
      boolean one =
          terms.get(0).links().stream()
              .anyMatch(link -> terms.stream().allMatch(each -> each.links().contains(link)));
      return one && !isJoinedBesides(terms, block)
          ? Optional.of(new Choice(terms, true, terms))
          : Optional.empty();
    }
    List<Term> references = terms.stream().filter(Term::isReference).toList();
    boolean others = terms.stream().anyMatch(each -> each.isOfManyRows(block.catalog()));
    return references.size() == 1 && others && !isJoinedBesides(terms, block)
        ? Optional.of(new Choice(terms, false, references))
        : Optional.empty();
  }

  /** Whether an equality beside the OR connects the two. */
  private static boolean isJoinedBesides(List<Term> terms, QueryBlock block) {
    return block.conjuncts().stream()
        .flatMap(each -> each.likeness().stream())
        .anyMatch(
            each ->
                terms.get(0).uses().equals(Set.of(each.left().use(), each.right().use()))
                    && each.left().use() != each.right().use());
  }

  private static Suspicion suspicion(
      Condition.Or or, Choice choice, Conjunct conjunct, Subject subject) {
    boolean own = subject.block().uses().containsAll(choice.terms().get(0).uses());
    Optional<Question<Long>> strangers =
        own ? subject.rows().map(rows -> strangers(rows, choice)) : Optional.empty();
    return Suspicion.asking(
        Kind.LOOSE_OR,
        or.span(),
        LooseOr.about(or, conjunct, subject),
        strangers,
        found ->
            // Where no rows meet but those that belong together, the other way may be a spare one.
            !choice.parts() && found.filter(rows -> rows == 0).isPresent()
                ? Optional.empty()
                : Optional.of(conclude(or, choice, found, subject)));
  }

  private static Question<Long> strangers(JoinedRows rows, Choice choice) {
    List<Expression> conditions = new ArrayList<>();
    List<Expression> belongs =
        choice.belongs().stream().map(each -> rows.holds(rows.all(), each.condition())).toList();
    conditions.add(Sql.not(Sql.all(belongs)));
    choice.terms().get(0).uses().forEach(use -> conditions.add(rows.isThere(rows.all(), use)));
    return Question.count(rows.all(), rows.isKept(conditions.toArray(Expression[]::new)));
  }

  private static Conclusion conclude(
      Condition.Or or, Choice choice, Optional<Long> found, Subject subject) {
    Link link = choice.belongs().get(0).links().get(0);
    String strangers =
        found
            .filter(rows -> rows > 0)
            .map(
                rows ->
                    ": "
                        + Words.count(rows, "joined row")
                        + (rows == 1 ? " puts" : " put")
                        + " together what does not belong together")
            .orElse("");
    String message =
        choice.parts()
            ? "A row of "
                + link.from().words()
                + " meets every row of "
                + link.to().words()
                + " that agrees in one part of "
                + link.reference().words()
                + strangers
                + ". Connect the parts with AND."
            : "Beside the reference this OR lets a row of "
                + link.from().words()
                + " meet every row of "
                + link.to().words()
                + " that shares "
                + shared(choice)
                + strangers
                + ". Join by the reference alone, or by both with AND.";
    Evidence evidence =
        new Evidence(
            found.map(rows -> Map.of("rows that do not belong together", rows)).orElse(Map.of()),
            List.of(),
            List.of("the schema has " + link.reference().words()));
    return new Conclusion(Severity.WARNING, message, evidence, repairs(or, choice, subject));
  }

  private static String shared(Choice choice) {
    return choice.terms().stream()
        .filter(each -> each.links().isEmpty())
        .map(each -> each.equated().left().words() + " with " + each.equated().right().words())
        .findFirst()
        .orElseThrow();
  }

  private static List<List<Edit>> repairs(Condition.Or or, Choice choice, Subject subject) {
    String and = " " + subject.edits().keyword("AND") + " ";
    String text =
        String.join(
            and, choice.belongs().stream().map(each -> subject.text(each.condition())).toList());
    return List.of(List.of(new Edit(or.span(), text)));
  }
}
