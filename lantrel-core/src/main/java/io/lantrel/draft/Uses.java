package io.lantrel.draft;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.edit.FreeAliases;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.NearNames;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** The tables and roles that a wish names, each under an alias of its own. */
final class Uses {

  private final Catalog catalog;
  private final Map<String, Use> byName = new LinkedHashMap<>();
  private final Map<Use, Reference> roles = new HashMap<>();
  private final FreeAliases aliases;

  Uses(Catalog catalog) {
    this(catalog, new FreeAliases(catalog.dialect(), alias -> catalog.table(alias).isPresent()));
  }

  private Uses(Catalog catalog, FreeAliases aliases) {
    this.catalog = catalog;
    this.aliases = aliases;
  }

  /** Those of a query within the draft: tables anew, and under aliases that it does not have. */
  Uses apart() {
    return new Uses(catalog, aliases);
  }

  Dialect dialect() {
    return catalog.dialect();
  }

  /** The use that a name means: of a table, or of one in a role. */
  Use named(String name) {
    Use known = byName.get(key(name));
    if (known != null) {
      return known;
    }
    Optional<Table> table = catalog.table(name);
    return table.map(this::of).orElseGet(() -> role(name));
  }

  /** A use of a table; the same one each time. */
  Use of(Table table) {
    Use known = byName.get(key(table.name()));
    return known == null ? add(table.name(), table, null) : known;
  }

  /** Whether a table is there under its own name. */
  boolean isNamed(Table table) {
    return byName.containsKey(key(table.name()));
  }

  /** A further use of a table, under a name and with an alias of its own. */
  Use further(String name, Table table) {
    return add(name, table, null);
  }

  /** A name for something that the draft has besides tables. */
  String freeName(String wanted) {
    return aliases.like(wanted);
  }

  /** A use within a subquery, which no other part of the draft sees. */
  Use inner(Table table) {
    return new Use(table.name(), table, aliases.shortFor(table.name()), dialect());
  }

  private Use role(String name) {
    List<Reference> fitting =
        catalog.references().stream().filter(each -> isRole(name, each)).toList();
    if (fitting.isEmpty()) {
      throw unknown(name);
    }
    List<Reference> here =
        fitting.stream().filter(each -> byName.containsKey(key(each.from().name()))).toList();
    List<Reference> meant = here.isEmpty() ? fitting : here;
    if (meant.size() > 1) {
      throw new WishException(
          "\""
              + name
              + "\" can be several things: "
              + String.join("; ", meant.stream().map(Reference::words).toList())
              + "; name another table of the wish first, or the table itself");
    }
    Reference reference = meant.get(0);
    if (key(reference.role()).equals(key(reference.to().name())) && !reference.isSelfReference()) {
      return of(reference.to());
    }
    return add(name, reference.to(), reference);
  }

  /** Whether a reference gives this role to what it refers to. */
  static boolean isRole(String name, Reference reference) {
    String last = reference.fromColumns().get(reference.fromColumns().size() - 1);
    return key(reference.role()).equals(key(name)) || key(last).equals(key(name));
  }

  private WishException unknown(String name) {
    List<String> known = new ArrayList<>();
    catalog.tables().forEach(table -> known.add(table.name()));
    catalog.references().forEach(each -> known.add(each.role()));
    // Where somebody writes the table before the role, the role is what is near.
    String last = name.substring(name.lastIndexOf('.') + 1);
    List<String> near = NearNames.of(last, known.stream().distinct().toList());
    return WishException.ofReferences(
        "there is no table and no role called "
            + name
            + (near.isEmpty()
                ? "; there are the tables "
                    + String.join(", ", catalog.tables().stream().map(Table::name).toList())
                    + roles()
                : "; close to it: " + String.join(", ", near)));
  }

  /** The roles that are not called like the table itself. */
  private String roles() {
    List<String> roles =
        catalog.references().stream()
            .flatMap(
                each ->
                    key(each.role()).equals(key(each.to().name()))
                        // Of a row of the same table the column is what tells it apart.
                        ? each.fromColumns().stream().filter(column -> each.isSelfReference())
                        : Stream.of(each.role()))
            .distinct()
            .toList();
    return roles.isEmpty() ? "" : ", and the roles " + String.join(", ", roles);
  }

  private Use add(String name, Table table, @Nullable Reference role) {
    boolean isTable = role == null && key(name).equals(key(table.name()));
    String alias = isTable ? aliases.shortFor(name) : roleAlias(name);
    Use use = new Use(name, table, alias, dialect());
    byName.put(key(name), use);
    if (role != null) {
      roles.put(use, role);
    }
    return use;
  }

  private String roleAlias(String name) {
    String plain = name.toLowerCase(Locale.ROOT);
    return aliases.isFree(plain) ? aliases.give(plain) : aliases.shortFor(name);
  }

  /** The reference that leads to a role; empty for a table under its own name. */
  Optional<Reference> role(Use use) {
    return Optional.ofNullable(roles.get(use));
  }

  /**
   * What names a role: its table, if that is there; else the one that is there in a role itself, as
   * the mentor of a keeper is named by the keeper.
   */
  Optional<Use> owner(Use use) {
    Optional<Table> table = role(use).map(Reference::from);
    if (table.filter(this::isNamed).isPresent()) {
      return table.map(this::of);
    }
    List<Use> called =
        roles.entrySet().stream()
            .filter(each -> !each.getKey().equals(use) && !each.getValue().isSelfReference())
            .map(Map.Entry::getKey)
            .filter(each -> table.filter(each.table()::equals).isPresent())
            .toList();
    return called.size() == 1 ? Optional.of(called.get(0)) : Optional.empty();
  }

  /**
   * Whether a role is named by one that it names itself: the head of a unit, the unit of a head.
   */
  boolean goesRound(Use use) {
    Set<Use> seen = new HashSet<>();
    Optional<Use> at = Optional.of(use);
    while (at.isPresent() && seen.add(at.get())) {
      at = owner(at.get());
    }
    return at.isPresent();
  }

  /** Whether something is there in the role that this reference gives. */
  boolean isRole(Reference reference) {
    return roles.containsValue(reference);
  }

  private static String key(String name) {
    return name.toLowerCase(Locale.ROOT);
  }
}
