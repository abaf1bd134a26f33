package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.kinds.hierarchies.StandingRecursion;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Blocks;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.BrokenConstraints;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.Conjunct.Origin;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Two columns equated that are no reference, although the schema says how the two tables belong
 * together, by a reference between them or by a way over others. Wherever columns are equated: in a
 * join, with a table outside, by IN, in the step of a recursion, through queries in FROM.
 */
public final class NotAReference implements Check {

  /** Names that many keys have, so that to have one says nothing. */
  private static final Set<String> OF_ANY_TABLE =
      Set.of("id", "no", "nr", "num", "number", "code", "key", "name", "title");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (JoinStep step : subject.block().steps()) {
      step.conjuncts().stream()
          .filter(each -> each.origin() == Origin.ON || each.origin() == Origin.WHERE)
          .flatMap(each -> Equation.of(each, step, subject))
          .filter(each -> isWrong(each, subject))
          .findFirst()
          .ifPresent(each -> suspicions.add(suspicion(each, subject)));
    }
    Equation.beyondJoins(subject).stream()
        .filter(each -> isWrong(each, subject))
        .forEach(each -> suspicions.add(suspicion(each, subject)));
    return suspicions;
  }

  private static boolean isWrong(Equation equation, Subject subject) {
    UseColumn left = equation.left();
    UseColumn right = equation.right();
    Catalog catalog = subject.catalog();
    if (equation.isReferenceInSomePart(catalog)) {
      return false;
    }
    if (left.use().isOfTable(right.use()) && left.position() == right.position()) {
      return equation.isOfRecursion()
          && References.isKey(left)
          && StandingRecursion.compared(subject).isEmpty();
    }
    boolean siblings =
        !Collections.disjoint(
            References.targets(left, catalog), References.targets(right, catalog));
    return !isReference(left, right, catalog)
        && (!siblings
            || isCalledByRole(left, right, subject)
            || isCalledByRole(right, left, subject))
        && !equation.isConnectedOtherwise()
        && (!between(left, right, catalog).isEmpty()
            || leadsElsewhere(left, right, catalog)
            || isBesideSibling(left, right, catalog)
            || isBesideSibling(right, left, catalog));
  }

  /**
   * A reference, and a number that is a part of a key, in whose table another column refers to the
   * same: the number of a line beside the article of a price.
   */
  private static boolean isBesideSibling(UseColumn reference, UseColumn part, Catalog catalog) {
    List<String> targets = References.targets(reference, catalog);
    boolean number =
        References.targets(part, catalog).isEmpty()
            && part.type().family() == TypeFamily.INTEGER
            && part.use().keyColumns().size() > 1
            && part.use().keyColumns().contains(part);
    return number
        && reference.type().family() == TypeFamily.INTEGER
        && part.use().columns().stream()
            .anyMatch(each -> !Collections.disjoint(References.targets(each, catalog), targets));
  }

  /**
   * Whether two rows that share a third one are put together, and the one is called by what the
   * other refers to it as: the director, who just lives where the play is given.
   */
  private static boolean isCalledByRole(UseColumn from, UseColumn to, Subject subject) {
    return subject.block().isOwn(to)
        && !table(from).equals(table(to))
        && between(from, to, subject.catalog()).stream()
            .filter(each -> each.from().equals(table(from)))
            .anyMatch(each -> OtherRole.isCalled(to.use(), each, subject.block()));
  }

  private static Table table(UseColumn column) {
    return column.use().table().orElseThrow();
  }

  private static List<Reference> between(UseColumn left, UseColumn right, Catalog catalog) {
    return References.between(table(left), table(right), catalog);
  }

  private static boolean isReference(UseColumn left, UseColumn right, Catalog catalog) {
    return refers(left, right, catalog) || refers(right, left, catalog);
  }

  private static boolean refers(UseColumn from, UseColumn to, Catalog catalog) {
    return References.targets(from, catalog).contains(table(to).name() + "." + to.tableColumn());
  }

  /**
   * Keys of two tables, or references to two others, or one of each, where no reference connects
   * the two, and others do; of one table, its key and what refers elsewhere.
   */
  private static boolean leadsElsewhere(UseColumn left, UseColumn right, Catalog catalog) {
    return isKeyOrReference(left, catalog)
        && isKeyOrReference(right, catalog)
        && left.type().family() == right.type().family()
        && (table(left).equals(table(right))
            || References.way(table(left), table(right), catalog).isPresent());
  }

  private static boolean isKeyOrReference(UseColumn column, Catalog catalog) {
    return References.isKey(column) || !References.targets(column, catalog).isEmpty();
  }

  private static Suspicion suspicion(Equation written, Subject subject) {
    Equation equation =
        isNamedLikeKey(written.right(), written.left(), subject.catalog())
            ? written.turned()
            : written;
    boolean own =
        equation.step() != null
            && subject.block().isOwn(equation.left())
            && subject.block().isOwn(equation.right());
    List<Span> about = new ArrayList<>(List.of(equation.place()));
    if (equation.step() != null) {
      about.add(equation.step().place());
    }
    if (!own) {
      return Suspicion.asking(
          Kind.NOT_A_REFERENCE,
          equation.place(),
          about,
          isNamed(equation, subject) ? Optional.of(broken(equation)) : Optional.empty(),
          broken ->
              broken.filter(each -> !each).isPresent()
                  ? Optional.empty()
                  : Optional.of(conclude(equation, Optional.empty(), subject)));
    }
    Optional<Question<Met>> question =
        subject.rows().map(rows -> meeting(rows, equation.left(), equation.right()));
    return Suspicion.asking(
        Kind.NOT_A_REFERENCE,
        equation.place(),
        about,
        question,
        met ->
            isPlainlyMeant(equation, met, subject)
                ? Optional.empty()
                : Optional.of(conclude(equation, met, subject)));
  }

  /**
   * Whether it is a reference that nobody declared: a column called like the key of the other
   * table, and all its values are there.
   */
  private static boolean isPlainlyMeant(Equation equation, Optional<Met> met, Subject subject) {
    return isNamed(equation, subject)
        && met.filter(each -> each.values() > 1 && each.meeting() == each.values()).isPresent();
  }

  /**
   * Whether the left is called like a key that the right is. Not where a row is called by the role
   * of a reference that is declared.
   */
  private static boolean isNamed(Equation equation, Subject subject) {
    UseColumn from = equation.left();
    UseColumn to = equation.right();
    return isNamedLikeKey(from, to, subject.catalog())
        && !isCalledByRole(from, to, subject)
        && !isCalledByRole(to, from, subject);
  }

  /** Whether a row has a value that no key is, wherever in the query the two are equated. */
  private static Question<Boolean> broken(Equation equation) {
    UseColumn from = equation.left();
    UseColumn to = equation.right();
    Reference reference =
        new Reference(
            table(from),
            List.of(from.tableColumn()),
            table(to),
            List.of(to.tableColumn()),
            Basis.OBSERVED);
    return BrokenConstraints.reference(reference, equation.block().dialect());
  }

  /** Whether a name is one that says nothing of its table. */
  static boolean isCalledAsAny(String name) {
    return OF_ANY_TABLE.contains(name.toLowerCase(Locale.ROOT));
  }

  private static boolean isNamedLikeKey(UseColumn from, UseColumn to, Catalog catalog) {
    return from.name().equalsIgnoreCase(to.name())
        && !isCalledAsAny(to.name())
        && References.isKey(to)
        && !References.isKey(from)
        && References.targets(from, catalog).isEmpty();
  }

  /** How many values one column has, and how many of them the other has too. */
  private record Met(long values, long meeting) {}

  private static Question<Met> meeting(JoinedRows rows, UseColumn one, UseColumn other) {
    Relation here = rows.side(one.use().item());
    Expression value = rows.column(here, one);
    Expression found = rows.isAmong(here, one, other);
    return Question.figures(
        here,
        List.of(
            Sql.countDistinct(value), Sql.countDistinct(Sql.choose(found, value, Sql.nothing()))),
        answer -> new Met(answer.figure(0), answer.figure(1)));
  }

  private static Conclusion conclude(Equation equation, Optional<Met> met, Subject subject) {
    UseColumn left = equation.left();
    UseColumn right = equation.right();
    Catalog catalog = subject.catalog();
    List<Reference> direct = between(left, right, catalog);
    List<Reference> way =
        direct.isEmpty()
            ? References.way(table(left), table(right), catalog).orElse(List.of())
            : direct;
    String wordsOfLeft = equation.writtenLeft().words();
    String wordsOfRight = equation.writtenRight().words();
    String message =
        wordsOfLeft.equals(wordsOfRight)
            ? wordsOfLeft + " is put beside itself. "
            : wordsOfLeft
                + " and "
                + wordsOfRight
                + " are not a reference: "
                + Words.one(left.use().rowWord())
                + " is put beside "
                + Words.one(right.use().rowWord())
                + " that just happens to have the same value. ";
    List<String> facts = new ArrayList<>();
    met.ifPresent(
        each ->
            facts.add(
                each.meeting()
                    + " of "
                    + Words.count(each.values(), "value")
                    + " of "
                    + wordsOfLeft
                    + " are values of "
                    + wordsOfRight
                    + " too"));
    way.forEach(each -> facts.add("the schema has " + each.words()));
    Map<String, Long> figures =
        met.map(each -> Map.of("values that meet", each.meeting())).orElse(Map.of());
    NotAReferenceRepairs repairs = new NotAReferenceRepairs(equation, subject);
    return new Conclusion(
        Severity.WARNING,
        message + advice(direct, way, repairs),
        new Evidence(figures, List.of(), facts),
        repairs.edits());
  }

  private static String advice(
      List<Reference> direct, List<Reference> way, NotAReferenceRepairs repairs) {
    if (!repairs.conditions().isEmpty()) {
      return "Join on " + String.join(" or ", repairs.conditions()) + ".";
    }
    if (!direct.isEmpty()) {
      return "Use " + String.join(" or ", direct.stream().map(Reference::words).toList()) + ".";
    }
    if (way.isEmpty()) {
      return "Compare columns that refer to the same.";
    }
    return "They belong together by "
        + Words.list(way.stream().map(Reference::words).toList())
        + ".";
  }

  /**
   * Two columns that a query sets equal.
   *
   * @param place where
   * @param writtenLeft as written, perhaps a column of a query in FROM
   * @param left the column of a table that it shows
   * @param step the join whose condition it is; null if it is none of one
   * @param conjunct the condition; null for IN
   * @param block where it stands
   */
  record Equation(
      Span place,
      UseColumn writtenLeft,
      UseColumn writtenRight,
      UseColumn left,
      UseColumn right,
      @Nullable JoinStep step,
      @Nullable Conjunct conjunct,
      QueryBlock block) {

    private static Optional<Equation> of(
        Span place,
        UseColumn left,
        UseColumn right,
        @Nullable JoinStep step,
        @Nullable Conjunct conjunct,
        QueryBlock block) {
      Optional<UseColumn> one = BaseColumn.of(left);
      Optional<UseColumn> other = BaseColumn.of(right);
      return one.isPresent() && other.isPresent()
          ? Optional.of(
              new Equation(place, left, right, one.get(), other.get(), step, conjunct, block))
          : Optional.empty();
    }

    /** Those of a condition: one, or one for each column of which COALESCE takes the first. */
    static Stream<Equation> of(Conjunct conjunct, JoinStep step, Subject subject) {
      QueryBlock block = subject.block();
      return conjunct.likeness().isPresent()
          ? conjunct
              .likeness()
              .flatMap(
                  each -> of(conjunct.span(), each.left(), each.right(), step, conjunct, block))
              .stream()
          : conjunct.condition() instanceof Condition.Comparison comparison
                  && comparison.operator() == Condition.ComparisonOperator.EQUAL
              ? Stream.concat(
                  ofChoice(comparison.left(), comparison.right(), step, conjunct, block),
                  ofChoice(comparison.right(), comparison.left(), step, conjunct, block))
              : Stream.of();
    }

    private static Stream<Equation> ofChoice(
        Expression choice, Expression value, JoinStep step, Conjunct conjunct, QueryBlock block) {
      Optional<UseColumn> other = block.meant(value);
      return other.isPresent()
              && choice instanceof FunctionCall call
              && call.key().equals("coalesce")
          ? call.arguments().stream()
              .flatMap(
                  argument ->
                      block.meant(argument).stream()
                          .flatMap(
                              column ->
                                  of(argument.span(), column, other.get(), step, conjunct, block)
                                      .stream()))
          : Stream.of();
    }

    /** Those with a column of a block outside, and those of IN. */
    static List<Equation> beyondJoins(Subject subject) {
      QueryBlock block = subject.block();
      List<Equation> found = new ArrayList<>();
      for (Conjunct filter : block.filters()) {
        block
            .alike(filter.condition())
            .filter(each -> block.isOwn(each.left()) != block.isOwn(each.right()))
            .flatMap(each -> of(filter.span(), each.left(), each.right(), null, filter, block))
            .ifPresent(found::add);
      }
      for (Condition.InQuery in : subject.nodes(Condition.InQuery.class)) {
        Optional<UseColumn> value = block.meant(in.value());
        Optional<QueryBlock> inner = Blocks.of(in.query(), subject);
        if (value.isPresent() && inner.isPresent() && inner.get().outputs().size() == 1) {
          Expression shown = inner.get().outputs().get(0).value();
          inner
              .get()
              .meant(shown)
              .filter(inner.get()::isOwn)
              .flatMap(column -> of(shown.span(), value.get(), column, null, null, block))
              .ifPresent(found::add);
        }
      }
      return found;
    }

    /** Whether parts of a UNION or of a recursion show other columns, which are a reference. */
    boolean isReferenceInSomePart(Catalog catalog) {
      List<UseColumn> others = BaseColumn.all(writtenRight, block);
      return BaseColumn.all(writtenLeft, block).stream()
          .anyMatch(one -> others.stream().anyMatch(two -> isReference(one, two, catalog)));
    }

    boolean isOfRecursion() {
      return block.isRecursive()
          && (writtenLeft.use().table().isEmpty() || writtenRight.use().table().isEmpty());
    }

    /** The same from right to left. */
    private Equation turned() {
      return new Equation(
          place,
          /* writtenLeft= */ writtenRight,
          /* writtenRight= */ writtenLeft,
          /* left= */ right,
          /* right= */ left,
          step,
          conjunct,
          block);
    }

    /** Whether both are columns of tables, and not of queries in FROM. */
    boolean isOfTables() {
      return writtenLeft.equals(left) && writtenRight.equals(right);
    }

    /** Whether it sets just these two equal. */
    boolean equates(UseColumn one, UseColumn other) {
      return (left.equals(one) && right.equals(other)) || (left.equals(other) && right.equals(one));
    }

    /** Whether another condition of the block connects the two tables by a reference. */
    boolean isConnectedOtherwise() {
      return block.conjuncts().stream()
          .flatMap(each -> equated(each).stream())
          .anyMatch(each -> sameUses(each) && !block.linksAlong(each).isEmpty());
    }

    /** Two columns that it sets equal, one of them perhaps of a block outside. */
    private Optional<Equated> equated(Conjunct other) {
      return other.likeness().or(() -> block.alike(other.condition()));
    }

    private boolean sameUses(Equated other) {
      TableUse one = writtenLeft.use();
      TableUse two = writtenRight.use();
      return other.of(one).isPresent() && other.of(two).isPresent();
    }

    List<Link> links() {
      return block.linksBetween(left.use(), right.use());
    }
  }
}
