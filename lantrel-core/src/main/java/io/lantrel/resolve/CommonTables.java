package io.lantrel.resolve;

import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Identifier;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * The queries of WITH that can be named at one place (ISO/IEC 9075-2, 7.17, scope of a query name):
 * those of its own query, then those of the queries around it.
 */
final class CommonTables {

  /** None. */
  static final CommonTables NONE = new CommonTables(null);

  private final @Nullable CommonTables outer;
  private final List<Member> members = new ArrayList<>();
  private boolean recursive;

  private CommonTables(@Nullable CommonTables outer) {
    this.outer = outer;
  }

  /** Room for more, in front of these. */
  CommonTables within() {
    return new CommonTables(this);
  }

  void markRecursive() {
    recursive = true;
  }

  /** Whether one of the lists of members is WITH RECURSIVE. */
  boolean isRecursive() {
    return recursive || (outer != null && outer.isRecursive());
  }

  void add(Member member) {
    members.add(member);
  }

  /** The member that a name means; the last one if a name is given twice. */
  Optional<Member> find(Identifier name, Resolver resolver) {
    for (CommonTables level = this; level != null; level = level.outer) {
      for (int i = level.members.size() - 1; i >= 0; i--) {
        Member member = level.members.get(i);
        boolean same =
            resolver.dialect().key(name).equals(resolver.dialect().key(member.table().name()));
        if (same) {
          return Optional.of(member);
        }
      }
    }
    return Optional.empty();
  }

  /** All members that can be named, the outer ones first; empty if one name means two of them. */
  Optional<List<CommonTable>> all(Resolver resolver) {
    List<CommonTable> all = new ArrayList<>();
    for (CommonTables level = this; level != null; level = level.outer) {
      all.addAll(0, level.members.stream().map(Member::table).toList());
    }
    long names = all.stream().map(each -> resolver.dialect().key(each.name())).distinct().count();
    return names == all.size() ? Optional.of(all) : Optional.empty();
  }

  /** One member, understood when it is first asked for. */
  static final class Member {
    private final CommonTable table;
    private final Resolver resolver;
    private final @Nullable Scope scope;
    private final CommonTables visible;
    private @Nullable ResolvedQuery result;
    private boolean begun;

    Member(CommonTable table, Resolver resolver, @Nullable Scope scope, CommonTables visible) {
      this.table = table;
      this.resolver = resolver;
      this.scope = scope;
      this.visible = visible;
    }

    CommonTable table() {
      return table;
    }

    @Nullable QueryBlock around() {
      return scope == null ? null : scope.block();
    }

    /**
     * What it gives: while its own recursive part is looked at, what the part before gives; empty
     * if it names itself where nothing is known yet.
     */
    Optional<ResolvedQuery> result() {
      if (!begun) {
        begun = true;
        result =
            resolver.common(table.query(), scope, visible, start -> this.result = start, table);
      }
      return Optional.ofNullable(result);
    }

    /** Whether it is being looked at: a name that is met now is its own recursion. */
    boolean isOpen() {
      return begun && (result == null || result.isOnlyStart());
    }
  }
}
