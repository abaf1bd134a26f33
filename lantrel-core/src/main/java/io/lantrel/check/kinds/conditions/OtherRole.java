package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Reference;
import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * One table refers to another in several roles, and a row is joined by one of them and called by
 * the name of another: the seller, found by the column for who checked it.
 */
public final class OtherRole implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    return block.steps().stream()
        .flatMap(
            step ->
                step.conjuncts().stream()
                    .flatMap(each -> claims(each, subject))
                    .limit(1)
                    .map(claim -> suspicion(claim, step, subject)))
        .toList();
  }

  /**
   * What a row is called, and what that means.
   *
   * @param name an alias or a heading
   * @param link by which it is joined
   * @param meant the reference whose role the name is
   */
  private record Claim(String name, Link link, Reference meant, Conjunct conjunct) {}

  private static Stream<Claim> claims(Conjunct conjunct, Subject subject) {
    QueryBlock block = subject.block();
    return conjunct.likeness().stream()
        .flatMap(each -> block.linksAlong(each).stream())
        .filter(link -> isOfOneColumn(link.reference()))
        .flatMap(
            link ->
                subject.catalog().references().stream()
                    .filter(other -> isOtherRole(other, link.reference()))
                    .filter(other -> !isJoinedBy(other, link, block))
                    .flatMap(other -> named(link, other, block).stream())
                    .map(name -> new Claim(name.name(), link, name.meant(), conjunct)));
  }

  private record Named(String name, Reference meant) {}

  private static Optional<Named> named(Link link, Reference other, QueryBlock block) {
    List<String> own = role(link.reference());
    List<String> role = role(other);
    if (role.equals(own)
        || ReversedSelfJoin.names(link.to(), block).anyMatch(name -> isRole(name, own))) {
      return Optional.empty();
    }
    return ReversedSelfJoin.names(link.to(), block)
        .filter(name -> isRole(name, role) || isColumn(name, other))
        .map(name -> new Named(name, other))
        .findFirst();
  }

  /** Whether a row is called by the role of a reference to it: an alias or a heading says so. */
  static boolean isCalled(TableUse use, Reference reference, QueryBlock block) {
    List<String> role = role(reference);
    return isOfOneColumn(reference)
        && ReversedSelfJoin.names(use, block).anyMatch(name -> isRole(name, role));
  }

  /** The words of a role, without those of the table that is referred to: home of home_team_id. */
  static List<String> role(Reference reference) {
    Set<String> table = Set.copyOf(words(reference.to().name()));
    return words(ReversedSelfJoin.role(reference)).stream()
        .filter(word -> !table.contains(word) && !table.contains(word + "s"))
        .toList();
  }

  static List<String> words(String name) {
    return List.of(name.toLowerCase(Locale.ROOT).split("[^\\p{L}]+", -1));
  }

  private static boolean isRole(String name, List<String> role) {
    return !role.isEmpty() && role.stream().allMatch(word -> ReversedSelfJoin.says(name, word));
  }

  private static boolean isColumn(String name, Reference reference) {
    return reference.fromColumns().get(0).equalsIgnoreCase(name);
  }

  static boolean isOfOneColumn(Reference reference) {
    return reference.fromColumns().size() == 1;
  }

  /** Whether another one refers from the same table to the same. */
  static boolean isOtherRole(Reference other, Reference reference) {
    return isOfOneColumn(other)
        && other.from().equals(reference.from())
        && other.to().equals(reference.to())
        && !other.fromColumns().equals(reference.fromColumns());
  }

  /** Whether the two table uses are joined by that reference as well. */
  static boolean isJoinedBy(Reference reference, Link link, QueryBlock block) {
    return block.conjuncts().stream()
        .flatMap(each -> each.likeness().stream())
        .flatMap(each -> block.linksAlong(each).stream())
        .anyMatch(
            each ->
                each.reference().equals(reference)
                    && each.from().equals(link.from())
                    && each.to().equals(link.to()));
  }

  private static Suspicion suspicion(Claim claim, JoinStep step, Subject subject) {
    Link link = claim.link();
    UseColumn refers = referring(link, link.reference());
    UseColumn meant = referring(link, claim.meant());
    UseColumn key = link.to().columnOfTable(claim.meant().toColumns().get(0)).orElseThrow();
    String right = key.written() + " = " + meant.written();
    Conjunct conjunct = claim.conjunct();
    List<List<Edit>> repairs =
        conjunct.origin() == Conjunct.Origin.ON || conjunct.origin() == Conjunct.Origin.WHERE
            ? Instead.of(conjunct, step, right, subject)
            : List.of();
    Conclusion conclusion =
        Conclusion.warning(
            claim.name()
                + " is the "
                + link.to().rowWord()
                + " of "
                + refers.words()
                + " here, not that of "
                + meant.words()
                + ", whose name it has. Join on "
                + right
                + ", or call it otherwise.",
            List.of("the schema has " + link.reference().words() + " and " + claim.meant().words()),
            repairs);
    return new Suspicion(
        Kind.ALIAS_OF_OTHER_TABLE,
        conjunct.span(),
        List.of(conjunct.span(), step.place()),
        List.of(),
        answers -> Optional.of(conclusion));
  }

  /** The column by which the row of a link would refer along a reference. */
  static UseColumn referring(Link link, Reference reference) {
    return link.from().columnOfTable(reference.fromColumns().get(0)).orElseThrow();
  }
}
