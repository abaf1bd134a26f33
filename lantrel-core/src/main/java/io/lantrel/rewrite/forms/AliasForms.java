package io.lantrel.rewrite.forms;

import io.lantrel.edit.FreeAliases;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * Other aliases for table uses: short ones, or what their rows are to the rows that refer to them.
 */
final class AliasForms {

  /** An alias of so many letters is short. */
  private static final int SHORT = 3;

  private final Reading reading;
  private final QueryBlock block;

  AliasForms(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
  }

  /** Initials for the uses with long names; a table that stands alone keeps its own. */
  FormEdits shortOnes() {
    FreeAliases aliases = reading.aliases();
    Renaming renaming = new Renaming(reading);
    List<Edit> edits = new ArrayList<>();
    for (TableUse use : block.uses()) {
      boolean alone = block.uses().size() == 1 && use.table().isPresent() && !use.hasAlias();
      if (use.name().length() > SHORT && !alone && use.isKnown() && use.isNamed()) {
        String alias = aliases.shortFor(use.name());
        if (alias.length() < use.name().length()) {
          edits.addAll(renaming.edits(block, use, alias));
        }
      }
    }
    return FormEdits.of(edits);
  }

  /** The role for the first use that has one and goes by another name. */
  FormEdits roles() {
    for (JoinStep step : block.steps()) {
      for (Conjunct conjunct : step.conjuncts()) {
        Optional<Link> link =
            conjunct.equality().stream()
                .flatMap(equated -> block.linksAlong(equated).stream())
                .filter(each -> step.right().contains(each.to()) || step.left().contains(each.to()))
                .filter(this::isToBeNamed)
                .findFirst();
        if (link.isPresent()) {
          TableUse use = link.get().to();
          return FormEdits.of(new Renaming(reading).edits(block, use, alias(link.get())));
        }
      }
    }
    return FormEdits.NONE;
  }

  private boolean isToBeNamed(Link link) {
    return !isTable(link) && roles(link.to()).noneMatch(each -> isCalled(link.to(), each));
  }

  /** The reference is named after the table: then the role tells nothing. */
  private boolean isTable(Link link) {
    return same(link.reference().role(), link.to().tableName());
  }

  /** All roles that a use has in this block. */
  private Stream<Link> roles(TableUse use) {
    return block.conjuncts().stream()
        .flatMap(each -> each.equality().stream())
        .flatMap(equated -> block.linksAlong(equated).stream())
        .filter(each -> each.to() == use && !isTable(each));
  }

  private boolean isCalled(TableUse use, Link link) {
    String role = link.reference().role().toLowerCase(Locale.ROOT);
    String name = use.name().toLowerCase(Locale.ROOT);
    return name.matches("(.*_)?" + Pattern.quote(role) + "\\d*");
  }

  private String alias(Link link) {
    FreeAliases aliases = reading.aliases();
    String role = link.reference().role();
    String longer = link.from().name().toLowerCase(Locale.ROOT) + "_" + role;
    boolean several =
        block.uses().stream()
            .anyMatch(
                each ->
                    each != link.to()
                        && roles(each).anyMatch(one -> same(one.reference().role(), role)));
    return aliases.like(several ? longer : role);
  }

  private static boolean same(String one, String other) {
    return one.equalsIgnoreCase(other);
  }
}
