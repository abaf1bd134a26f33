package io.lantrel.survey;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.View;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * A view, and what it is over; none of its rows are looked at.
 *
 * @param view the view
 * @param tables the tables that its rows come from, also over other views, in the order in which
 *     they are met; empty if its query was not read
 * @param views the views that it is over, directly or over others
 */
public record ViewSurvey(View view, List<Table> tables, List<View> views) {
  public ViewSurvey {
    tables = List.copyOf(tables);
    views = List.copyOf(views);
  }

  /** Whether Lantrel could read its query, so that the tables are known. */
  public boolean isRead() {
    return view.query() != null;
  }

  static ViewSurvey of(View view, Catalog catalog) {
    Set<Table> tables = new LinkedHashSet<>();
    Set<View> views = new LinkedHashSet<>();
    Deque<View> open = new ArrayDeque<>(List.of(view));
    while (!open.isEmpty()) {
      Query query = open.pop().query();
      if (query != null) {
        for (FromItem.TableName name : names(query)) {
          catalog.table(name.name()).ifPresent(tables::add);
          catalog
              .view(name.name())
              .filter(each -> !each.equals(view) && views.add(each))
              .ifPresent(open::push);
        }
      }
    }
    return new ViewSurvey(view, List.copyOf(tables), List.copyOf(views));
  }

  /** The names in FROM that are none of a member of WITH. */
  private static List<FromItem.TableName> names(Query query) {
    Set<String> members =
        query
            .preorder()
            .filter(CommonTable.class::isInstance)
            .map(each -> ((CommonTable) each).name().key())
            .collect(Collectors.toSet());
    return query
        .preorder()
        .filter(FromItem.TableName.class::isInstance)
        .map(FromItem.TableName.class::cast)
        .filter(each -> each.name().size() > 1 || !members.contains(each.name().get(0).key()))
        .toList();
  }
}
