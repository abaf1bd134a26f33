package io.lantrel.sql;

import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * {@code FROM a, b JOIN c ON c.id = a.id}: where a product lets the ON see {@code a}, the comma
 * binds like a join, and the tree says so. It is the same rows, as long as the joins behind the
 * comma keep every row on their left or none without a partner. SQLite takes every comma for a
 * join, which RIGHT, FULL, USING and NATURAL behind it show.
 */
final class CommaReach {

  private final FromItem before;
  private final FromItem item;

  private CommaReach(FromItem before, FromItem item) {
    this.before = before;
    this.item = item;
  }

  /** An item behind a comma with all before it within, as its joins see it; null if they do not. */
  static @Nullable FromItem joined(FromItem.Join comma, Dialect dialect) {
    CommaReach reach = new CommaReach(comma.left(), comma.right());
    List<FromItem.Join> chain = reach.chain();
    if (chain.isEmpty()) {
      return null;
    }
    boolean plain = chain.stream().allMatch(CommaReach::isPlain);
    if (!plain && dialect.has(Rule.COMMA_IS_A_JOIN)) {
      return reach.grown(comma, chain);
    }
    boolean lets =
        dialect.has(Rule.ON_SEES_BEYOND_COMMA)
            && plain
            && (!dialect.has(Rule.INNER_ON_SEES_ALL_TABLES)
                || chain.stream().noneMatch(join -> join.kind().isOuter()));
    return lets && reach.isSeen(chain) ? reach.grown(comma, chain) : null;
  }

  /** The joins of the item, the innermost first. */
  private List<FromItem.Join> chain() {
    List<FromItem.Join> chain = new ArrayList<>();
    FromItem next = item;
    while (next instanceof FromItem.Join join && !join.inParentheses()) {
      chain.add(join);
      next = join.left();
    }
    Collections.reverse(chain);
    return chain;
  }

  /** Whether it is the same join with more on its left. */
  private static boolean isPlain(FromItem.Join join) {
    return !join.natural()
        && !(join.condition() instanceof JoinCondition.Using)
        && join.way() == FromItem.Way.BY_CONDITION
        && !join.kind().keepsRight();
  }

  private boolean isSeen(List<FromItem.Join> chain) {
    Set<String> beyond = names(before);
    beyond.removeAll(names(item));
    return chain.stream()
        .flatMap(join -> Stream.ofNullable(join.condition()))
        .flatMap(JoinCondition::preorder)
        .filter(ColumnName.class::isInstance)
        .map(ColumnName.class::cast)
        .filter(name -> name.qualifier().size() == 1)
        .anyMatch(name -> beyond.contains(key(name.qualifier().get(0).text())));
  }

  /** By which the tables of an item go; those within queries in FROM are not seen. */
  private static Set<String> names(FromItem item) {
    Set<String> names = new HashSet<>();
    List<FromItem> open = new ArrayList<>(List.of(item));
    while (!open.isEmpty()) {
      FromItem next = open.remove(open.size() - 1);
      if (next instanceof FromItem.Join join) {
        open.add(join.left());
        open.add(join.right());
      } else if (next instanceof FromItem.TableName table) {
        names.add(
            key(
                table.alias() == null
                    ? table.name().get(table.name().size() - 1).text()
                    : table.alias().name().text()));
      } else if (next instanceof FromItem.DerivedTable derived && derived.alias() != null) {
        names.add(key(derived.alias().name().text()));
      } else if (next instanceof FromItem.TableFunction call && call.alias() != null) {
        names.add(key(call.alias().name().text()));
      }
    }
    return names;
  }

  private static String key(String name) {
    return name.toLowerCase(Locale.ROOT);
  }

  private FromItem grown(FromItem.Join comma, List<FromItem.Join> chain) {
    FromItem first = chain.get(0).left();
    FromItem grown =
        new FromItem.Join(
            before.span().to(first.span()),
            before,
            JoinKind.COMMA,
            false,
            first,
            null,
            comma.keyword(),
            false);
    for (FromItem.Join join : chain) {
      grown =
          new FromItem.Join(
              before.span().to(join.span()),
              grown,
              join.kind(),
              join.natural(),
              join.right(),
              join.condition(),
              join.keyword(),
              false,
              null,
              join.way());
    }
    return grown;
  }
}
