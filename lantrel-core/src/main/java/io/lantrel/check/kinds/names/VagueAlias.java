package io.lantrel.check.kinds.names;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * A table joined to itself along its reference under names that do not say who is who: a and b, w1
 * and w2, without headings that do.
 */
public final class VagueAlias implements Check {

  private static final Pattern NUMBERED = Pattern.compile("(\\p{L}+?)_?\\d");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    for (JoinStep step : block.steps()) {
      Optional<Link> link =
          step.conjuncts().stream()
              .flatMap(each -> each.likeness().stream())
              .flatMap(each -> block.linksAlong(each).stream())
              .filter(each -> each.reference().isSelfReference())
              .findFirst();
      if (link.isPresent() && isVague(link.get(), block)) {
        return List.of(suspicion(link.get(), step));
      }
    }
    return List.of();
  }

  private static boolean isVague(Link link, QueryBlock block) {
    return isVague(link.from().name(), link.to().name())
        && isShown(link.from(), block)
        && isShown(link.to(), block)
        && !isLabelled(link.from(), block)
        && !isLabelled(link.to(), block);
  }

  private static boolean isVague(String one, String other) {
    var first = NUMBERED.matcher(one);
    var second = NUMBERED.matcher(other);
    boolean numbered =
        first.matches() && second.matches() && first.group(1).equals(second.group(1));
    boolean letters =
        one.length() == 1 && other.length() == 1 && Math.abs(one.charAt(0) - other.charAt(0)) == 1;
    return numbered || letters;
  }

  private static boolean isShown(TableUse use, QueryBlock block) {
    return block.outputs().stream().anyMatch(each -> block.mentioned(each.value()).contains(use));
  }

  /** Whether a heading of its columns is another than their name. */
  private static boolean isLabelled(TableUse use, QueryBlock block) {
    return block.outputs().stream()
        .filter(each -> block.mentioned(each.value()).equals(Set.of(use)))
        .map(OutputColumn::name)
        .anyMatch(name -> use.column(name).isEmpty());
  }

  private static Suspicion suspicion(Link link, JoinStep step) {
    TableUse use = step.right().contains(link.to()) ? link.to() : link.from();
    return Suspicion.certain(
        Kind.VAGUE_ALIAS,
        use.nameSpan(),
        Conclusion.note(
            link.from().name()
                + " and "
                + link.to().name()
                + " do not say which "
                + use.rowWord()
                + " is the "
                + link.reference().role()
                + " of the other: it is "
                + link.to().name()
                + ". Name them by their roles.",
            List.of("the schema has " + link.reference().words()),
            List.of()));
  }
}
