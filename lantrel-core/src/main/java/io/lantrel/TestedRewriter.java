package io.lantrel;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Constraint;
import io.lantrel.catalog.Constraints;
import io.lantrel.catalog.Table;
import io.lantrel.edit.OneQuery;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.TableUse;
import io.lantrel.rewrite.Caveat;
import io.lantrel.rewrite.Form;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.rewrite.Rewritten;
import io.lantrel.rewrite.forms.Rewriter;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Brings queries into another form, and believes no key and no NOT NULL that the rows at hand
 * break: a join that repeats no row by a key would repeat some here. The rows are asked only where
 * something else would come out without these.
 */
final class TestedRewriter {

  private final Catalog catalog;
  private final UnaryOperator<List<Constraint>> broken;

  /**
   * @param broken which of some constraints the rows at hand break; asks them
   */
  TestedRewriter(Catalog catalog, UnaryOperator<List<Constraint>> broken) {
    this.catalog = catalog;
    this.broken = broken;
  }

  /** What came out; one of the two is null. */
  private record Outcome(@Nullable Rewritten rewritten, @Nullable String refusal) {

    static Outcome of(Catalog catalog, String sql, Form form) {
      try {
        return new Outcome(new Rewriter(catalog).rewrite(sql, form), null);
      } catch (RewriteException refused) {
        return new Outcome(null, refused.getMessage());
      }
    }

    /**
     * @param remark what is to be said besides; empty for nothing
     */
    Rewritten told(String sql, String remark) {
      String more = remark.isEmpty() ? "" : "; " + remark;
      if (rewritten == null) {
        throw new RewriteException(refusal + more);
      }
      List<Caveat> caveats = new ArrayList<>(rewritten.caveats());
      if (!remark.isEmpty() && !rewritten.sql().equals(sql)) {
        caveats.add(new Caveat(remark + "; nothing was built on it", "", ""));
      }
      return new Rewritten(rewritten.sql(), caveats);
    }
  }

  Rewritten rewrite(String sql, Form form) {
    Outcome trusting = Outcome.of(catalog, sql, form);
    Set<Table> tables =
        OneQuery.ifAny(sql, catalog).map(OneQuery::resolution).map(this::tables).orElse(Set.of());
    Constraints constraints = new Constraints(catalog, tables, (table, column) -> true);
    // A reference alone makes no row come twice, and no value empty.
    Map<Boolean, List<Constraint>> all =
        constraints.all().stream()
            .collect(Collectors.partitioningBy(each -> each.kind() == Constraint.Kind.REFERENCE));
    List<Constraint> held = new ArrayList<>(all.getOrDefault(true, List.of()));
    if (trusting.equals(Outcome.of(constraints.keeping(held), sql, form))) {
      return trusting.told(sql, "");
    }
    List<Constraint> doubtful = all.getOrDefault(false, List.of());
    List<Constraint> not = broken.apply(doubtful);
    if (not.isEmpty()) {
      return trusting.told(sql, "");
    }
    doubtful.stream().filter(each -> !not.contains(each)).forEach(held::add);
    return Outcome.of(constraints.keeping(held), sql, form)
        .told(sql, "here it does not hold that " + Constraint.words(not));
  }

  private Set<Table> tables(Resolution resolution) {
    return resolution.blocks().stream()
        .flatMap(block -> block.uses().stream())
        .map(TableUse::table)
        .flatMap(table -> table.stream())
        .filter(catalog.tables()::contains)
        .collect(Collectors.toSet());
  }
}
