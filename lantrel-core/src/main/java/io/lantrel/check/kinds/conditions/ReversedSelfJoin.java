package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Reference;
import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * A table joined to itself the other way round than its names say: what is called the mentor is the
 * row that has a mentor. The names are aliases and headings; the role is that of the reference.
 */
public final class ReversedSelfJoin implements Check {

  /** So many letters at the begin of two words make them forms of one. */
  private static final int STEM = 5;

  /**
   * {@code sequel_of}, {@code copy_of_id}, {@code reply_to}; not {@code head_office}, and not what
   * is done to the row, as {@code assigned_to} and {@code reports_to}.
   */
  private static final Pattern OF = Pattern.compile("(.+)_of(_.*)?|(.+(?<!ed|s))_to(_.*)?");

  private static final Set<String> ABOVE =
      Set.of("parent", "boss", "manager", "superior", "chief", "upper", "super");
  private static final Set<String> BELOW =
      Set.of("child", "children", "employee", "subordinate", "sub", "lower", "below");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (JoinStep step : subject.block().steps()) {
      for (Conjunct conjunct : step.conjuncts()) {
        Optional<Link> link =
            conjunct.likeness().stream()
                .flatMap(each -> subject.block().linksAlong(each).stream())
                .filter(each -> each.reference().isSelfReference())
                .filter(each -> each.reference().fromColumns().size() == 1)
                .findFirst();
        link.flatMap(each -> claim(each, subject.block()).or(() -> countOfOne(each, subject)))
            .ifPresent(
                claim ->
                    suspicions.add(suspicion(claim, link.orElseThrow(), conjunct, step, subject)));
      }
    }
    return suspicions;
  }

  /** What is claimed to be the other way round than it is joined. */
  private enum Claimed {
    /** The row that refers is called what it refers to. */
    ABOVE,
    /** The row that is referred to is called what refers. */
    BELOW,
    /** The one row that is referred to is counted. */
    COUNTED
  }

  /** What says so: an alias or a heading, or a COUNT. */
  private record Claim(String name, Claimed claimed) {}

  private static Optional<Claim> claim(Link link, QueryBlock block) {
    String role = role(link.reference());
    String ownRole = ownRole(link.reference());
    Predicate<String> saysBelow = name -> says(name, ownRole) || saysAny(name, BELOW);
    boolean contradicted =
        names(link.to(), block).anyMatch(name -> says(name, role) || saysAny(name, ABOVE))
            || names(link.from(), block).anyMatch(saysBelow);
    if (contradicted) {
      return Optional.empty();
    }
    // In a chain a row is what it is called to the one before it, and not to the one behind.
    boolean isAboveAnother = links(block).anyMatch(each -> each.to().equals(link.from()));
    boolean isBelowAnother = links(block).anyMatch(each -> each.from().equals(link.to()));
    Optional<Claim> above =
        names(link.from(), block)
            .filter(name -> !isAboveAnother)
            .filter(name -> says(name, role) || saysAny(name, ABOVE))
            .map(name -> new Claim(name, Claimed.ABOVE))
            .findFirst();
    return above.or(
        () ->
            names(link.to(), block)
                .filter(name -> saysBelow.test(name) && !isBelowAnother)
                .map(name -> new Claim(name, Claimed.BELOW))
                .findFirst());
  }

  /**
   * A COUNT, for each row that refers, of the one that it refers to: never more than 1, so that the
   * other way round is meant.
   */
  private static Optional<Claim> countOfOne(Link link, Subject subject) {
    QueryBlock block = subject.block();
    Set<UseColumn> grouping =
        block.groupedBy().stream()
            .flatMap(each -> block.column(each).stream())
            .collect(Collectors.toSet());
    boolean forEach = block.determinedBy(grouping).contains(link.from());
    return subject.nodes(FunctionCall.class).stream()
        .filter(call -> forEach && call.key().equals("count") && call.over() == null)
        .filter(call -> call.filter() == null && !call.star())
        .filter(call -> block.mentioned(call).equals(Set.of(link.to())))
        .map(call -> new Claim(subject.text(call), Claimed.COUNTED))
        .findFirst();
  }

  /** What the row is that refers by a column like {@code sequel_of}; empty for other columns. */
  private static String ownRole(Reference reference) {
    Matcher of = OF.matcher(reference.fromColumns().get(0).toLowerCase(Locale.ROOT));
    return of.matches() ? Objects.requireNonNullElseGet(of.group(1), () -> of.group(3)) : "";
  }

  /** The name of the referring column without its ending. */
  static String role(Reference reference) {
    if (!ownRole(reference).isEmpty()) {
      return "";
    }
    String column = reference.fromColumns().get(0).toLowerCase(Locale.ROOT);
    String role = reference.role().toLowerCase(Locale.ROOT);
    return column.startsWith(role) ? role : column.replaceFirst("_.*", "");
  }

  private static Stream<Link> links(QueryBlock block) {
    return block.conjuncts().stream()
        .flatMap(each -> each.likeness().stream())
        .flatMap(each -> block.linksAlong(each).stream())
        .filter(each -> each.reference().isSelfReference());
  }

  /** Its alias, and the headings under which its columns alone are shown. */
  static Stream<String> names(TableUse use, QueryBlock block) {
    Stream<String> headings =
        block.outputs().stream()
            .filter(each -> block.mentioned(each.value()).equals(Set.of(use)))
            .filter(each -> !isOwnColumn(each, block))
            // How many refer to a row is told from its side.
            .filter(each -> Aggregates.in(each.value()).findAny().isEmpty())
            .map(OutputColumn::name);
    return use.hasAlias() ? Stream.concat(Stream.of(use.name()), headings) : headings;
  }

  /** Whether a heading is just the name of the column that is shown. */
  private static boolean isOwnColumn(OutputColumn output, QueryBlock block) {
    return block.columnsIn(output.value()).stream()
        .anyMatch(column -> column.name().equalsIgnoreCase(output.name()));
  }

  /**
   * Whether a word of it is the role, or has its stem: trainer for trained_by, and trained_by
   * itself. Who is trained, or a trainee, is the row that refers; and what is relayed is no relay.
   */
  static boolean says(String name, String role) {
    boolean by = words(name).contains("by");
    return words(name).stream()
        .filter(word -> by || !(role.endsWith("ed") && word.matches(".*e[ed]s?")))
        .filter(word -> !word.equals(role + "ed") && !word.equals(role + "d"))
        .anyMatch(
            word ->
                role.length() > 2
                    && (word.equals(role)
                        || (word.length() >= STEM
                            && role.length() >= STEM
                            && word.startsWith(role.substring(0, STEM)))));
  }

  /** Whether a heading says that its row is the one referred to. */
  static boolean claims(String name, String role) {
    return says(name, role) || saysAny(name, ABOVE);
  }

  private static boolean saysAny(String name, Set<String> roles) {
    return words(name).stream().anyMatch(roles::contains);
  }

  /** The words of a name; one that is said to be "of" something is no role itself. */
  private static List<String> words(String name) {
    List<String> words = List.of(name.toLowerCase(Locale.ROOT).split("[^\\p{L}]+", -1));
    return words.contains("of") ? List.of() : words;
  }

  private static Suspicion suspicion(
      Claim claim, Link link, Conjunct conjunct, JoinStep step, Subject subject) {
    Reference reference = link.reference();
    UseColumn refers = link.to().columnOfTable(reference.fromColumns().get(0)).orElseThrow();
    UseColumn key = link.from().columnOfTable(reference.toColumns().get(0)).orElseThrow();
    String right = refers.written() + " = " + key.written();
    String what =
        switch (claim.claimed()) {
          case ABOVE -> "is the row that refers here, not the one that is referred to";
          case BELOW -> "is the row that is referred to here, not the one that refers";
          case COUNTED -> "counts the one row that is referred to, never more than 1";
        };
    String message = claim.name() + " " + what + ". Join on " + right + ".";
    String shown =
        switch (claim.claimed()) {
          case ABOVE -> "rows of " + link.from().words() + " are shown as " + claim.name();
          case BELOW -> "rows of " + link.to().words() + " are shown as " + claim.name();
          case COUNTED -> "each " + link.from().rowWord() + " refers to one at most";
        };
    List<String> facts = List.of("the schema has " + reference.words(), shown);
    List<List<Edit>> repairs =
        conjunct.origin() == Conjunct.Origin.ON || conjunct.origin() == Conjunct.Origin.WHERE
            ? Instead.of(conjunct, step, right, subject)
            : List.of();
    Conclusion conclusion = Conclusion.warning(message, facts, repairs);
    return new Suspicion(
        Kind.REVERSED_SELF_JOIN,
        conjunct.span(),
        List.of(conjunct.span(), step.place()),
        List.of(),
        answers -> Optional.of(conclusion));
  }
}
