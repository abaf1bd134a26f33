package io.lantrel;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Constraint;
import io.lantrel.catalog.Constraints;
import io.lantrel.catalog.Table;
import io.lantrel.edit.OneQuery;
import io.lantrel.engine.Database;
import io.lantrel.probe.HeldConstraints;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.TableUse;
import io.lantrel.rewrite.Caveat;
import io.lantrel.rewrite.Form;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.rewrite.Rewritten;
import io.lantrel.rewrite.forms.Rewriter;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Brings queries into another form, and believes no key and no NOT NULL that the rows at hand
 * break: a join that repeats no row by a key would repeat some here.
 */
final class TestedRewriter {

  private final Catalog catalog;
  private final @Nullable Database database;

  TestedRewriter(Catalog catalog, @Nullable Database database) {
    this.catalog = catalog;
    this.database = database;
  }

  Rewritten rewrite(String sql, Form form) {
    Set<Table> tables =
        OneQuery.ifAny(sql, catalog).map(OneQuery::resolution).map(this::tables).orElse(Set.of());
    Constraints constraints = new Constraints(catalog, tables, (table, column) -> true);
    List<Constraint> broken = broken(constraints);
    if (broken.isEmpty()) {
      return new Rewriter(catalog).rewrite(sql, form);
    }
    String words = "here it does not hold that " + Constraint.words(broken);
    List<Constraint> held = new ArrayList<>(constraints.all());
    held.removeAll(broken);
    try {
      Rewritten rewritten = new Rewriter(constraints.keeping(held)).rewrite(sql, form);
      List<Caveat> caveats = new ArrayList<>(rewritten.caveats());
      if (!rewritten.sql().equals(sql)) {
        caveats.add(new Caveat(words + "; nothing was built on it", "", ""));
      }
      return new Rewritten(rewritten.sql(), caveats);
    } catch (RewriteException refused) {
      throw new RewriteException(refused.getMessage() + "; " + words);
    }
  }

  private Set<Table> tables(Resolution resolution) {
    return resolution.blocks().stream()
        .flatMap(block -> block.uses().stream())
        .map(TableUse::table)
        .flatMap(table -> table.stream())
        .filter(catalog.tables()::contains)
        .collect(Collectors.toSet());
  }

  private List<Constraint> broken(Constraints constraints) {
    if (database == null) {
      return List.of();
    }
    List<Constraint> ofRows =
        constraints.all().stream()
            .filter(each -> each.kind() != Constraint.Kind.REFERENCE)
            .toList();
    return new HeldConstraints().broken(ofRows, database);
  }
}
