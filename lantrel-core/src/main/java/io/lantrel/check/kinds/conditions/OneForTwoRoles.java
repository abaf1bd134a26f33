package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Reference;
import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.edit.FreeAliases;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.JoinKind;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * One column under two headings that name two roles: where a tour begins and where it ends, both
 * from the one row that was joined by where it begins.
 */
public final class OneForTwoRoles implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    return block.conjuncts().stream()
        .flatMap(each -> each.likeness().stream())
        .flatMap(each -> block.linksAlong(each).stream())
        .filter(link -> OtherRole.isOfOneColumn(link.reference()))
        .flatMap(link -> claims(link, subject))
        .limit(1)
        .map(claim -> suspicion(claim, subject))
        .toList();
  }

  /**
   * Two headings of one value.
   *
   * @param right the one that says by what the row is joined
   * @param wrong the one that says otherwise
   * @param meant the reference whose role that is
   */
  private record Claim(Link link, OutputColumn right, OutputColumn wrong, Reference meant) {}

  private static Stream<Claim> claims(Link link, Subject subject) {
    QueryBlock block = subject.block();
    List<OutputColumn> shown =
        block.outputs().stream()
            .filter(each -> column(each, block).filter(it -> it.use() == link.to()).isPresent())
            .toList();
    return subject.catalog().references().stream()
        .filter(other -> OtherRole.isOtherRole(other, link.reference()))
        .filter(other -> !OtherRole.isJoinedBy(other, link, block))
        .flatMap(
            other ->
                shown.stream()
                    .filter(each -> says(each, other) && !says(each, link.reference()))
                    .flatMap(
                        wrong ->
                            shown.stream()
                                .filter(each -> column(each, block).equals(column(wrong, block)))
                                .filter(each -> says(each, link.reference()) && !says(each, other))
                                .map(right -> new Claim(link, right, wrong, other))));
  }

  private static Optional<UseColumn> column(OutputColumn output, QueryBlock block) {
    return block.column(output.value());
  }

  /** Whether a heading has the words of a role, or is the column itself. */
  private static boolean says(OutputColumn output, Reference reference) {
    List<String> role = OtherRole.role(reference);
    return output.name().equalsIgnoreCase(reference.fromColumns().get(0))
        || (!role.isEmpty() && OtherRole.words(output.name()).containsAll(role));
  }

  private static Suspicion suspicion(Claim claim, Subject subject) {
    Link link = claim.link();
    UseColumn refers = OtherRole.referring(link, link.reference());
    UseColumn meant = OtherRole.referring(link, claim.meant());
    String message =
        claim.right().name()
            + " and "
            + claim.wrong().name()
            + " show one and the same "
            + link.to().rowWord()
            + ", that of "
            + refers.words()
            + ". Join "
            + link.to().tableName()
            + " once more by "
            + meant.words()
            + ", and take "
            + claim.wrong().name()
            + " from there.";
    return Suspicion.certain(
        Kind.ALIAS_OF_OTHER_TABLE,
        claim.wrong().value().span(),
        Conclusion.warning(
            message,
            List.of("the schema has " + link.reference().words() + " and " + claim.meant().words()),
            List.of(repair(claim, meant, subject))));
  }

  /** The table once more, so that no row is lost where it may have none. */
  private static List<Edit> repair(Claim claim, UseColumn meant, Subject subject) {
    QueryBlock block = subject.block();
    FreeAliases aliases =
        new FreeAliases(
            block.dialect(),
            name -> block.uses().stream().anyMatch(use -> use.name().equalsIgnoreCase(name)));
    String alias = aliases.like(claim.link().to().name());
    UseColumn shown = column(claim.wrong(), block).orElseThrow();
    String key = claim.meant().toColumns().get(0);
    boolean optional = block.isNullable(meant);
    Edit join =
        subject
            .edits()
            .addToFrom(
                (optional ? JoinKind.LEFT : JoinKind.INNER).words(),
                block.dialect().write(claim.link().to().tableName())
                    + subject.edits().beforeAlias()
                    + alias,
                alias + "." + block.dialect().write(key) + " = " + meant.written(),
                subject.edits().behind(claim.link().from()));
    Edit value =
        new Edit(
            claim.wrong().value().span(), alias + "." + block.dialect().write(shown.tableColumn()));
    return List.of(join, value);
  }
}
