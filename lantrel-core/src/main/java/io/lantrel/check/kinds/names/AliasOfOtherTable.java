package io.lantrel.check.kinds.names;

import io.lantrel.catalog.Table;
import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.TableUse;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** An alias that is the name of another table, or two short ones that are exchanged. */
public final class AliasOfOtherTable implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (TableUse use : subject.block().uses()) {
      if (use.hasAlias()) {
        Optional<Table> other = subject.catalog().table(use.name());
        if (other.isPresent() && !use.table().equals(other)) {
          suspicions.add(
              suspicion(
                  use,
                  use.name()
                      + " is the name of another table and stands for "
                      + use.rowWord()
                      + " here, so that "
                      + use.name()
                      + ".… reads as what it is not. Give it another alias.",
                  "the schema has a table " + other.get().name()));
        }
      }
    }
    List<TableUse> uses = subject.block().uses();
    for (int i = 0; i < uses.size(); i++) {
      for (int j = i + 1; j < uses.size(); j++) {
        if (isExchanged(uses.get(i), uses.get(j))) {
          suspicions.add(
              suspicion(
                  uses.get(i),
                  uses.get(i).name()
                      + " stands for "
                      + uses.get(i).rowWord()
                      + " and "
                      + uses.get(j).name()
                      + " for "
                      + uses.get(j).rowWord()
                      + ": each is the initial of the other. Exchange the two.",
                  "the aliases are the initials of the other table"));
        }
      }
    }
    return suspicions;
  }

  private static boolean isExchanged(TableUse one, TableUse other) {
    return one.hasAlias()
        && other.hasAlias()
        && !one.isOfTable(other)
        && one.name().equalsIgnoreCase(initial(other))
        && other.name().equalsIgnoreCase(initial(one))
        && !initial(one).equals(initial(other));
  }

  private static String initial(TableUse use) {
    return use.rowWord().substring(0, 1).toLowerCase(Locale.ROOT);
  }

  private static Suspicion suspicion(TableUse use, String message, String fact) {
    return Suspicion.certain(
        Kind.ALIAS_OF_OTHER_TABLE,
        use.nameSpan(),
        Conclusion.warning(message, List.of(fact), List.of()));
  }
}
