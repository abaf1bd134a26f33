package io.lantrel.sample.asked;

import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A row that others refer to shall not look like one that nothing refers to: it gets one of those,
 * by the least key. Only along references of one column, from tables whose key is one column that
 * every engine puts in an order.
 */
final class Families {

  private static final int AT_A_TIME = 100;

  private final List<Reference> references;
  private final AllRows tables;
  private final Asker asker;

  /** By reference, what was looked up: the value referred to, and the row that refers to it. */
  private final Map<Reference, Map<String, List<List<@Nullable String>>>> known =
      new LinkedHashMap<>();

  Families(List<Reference> references, AllRows tables, Asker asker) {
    this.references =
        references.stream()
            .filter(each -> each.fromColumns().size() == 1)
            .filter(each -> tables.of(each.from()).identity().size() == 1)
            .filter(each -> tables.of(each.from()).leading().isPresent())
            .toList();
    this.tables = tables;
    this.asker = asker;
  }

  /** For each row that nothing here refers to, though something does there, a row that does. */
  List<Pick> missing(KeptRows kept) {
    Map<Question<List<List<@Nullable String>>>, Reference> questions = new LinkedHashMap<>();
    Map<Reference, Set<String>> alone = new LinkedHashMap<>();
    for (Reference reference : references) {
      Set<String> values = alone(reference, kept);
      alone.put(reference, values);
      Map<String, List<List<@Nullable String>>> there =
          known.computeIfAbsent(reference, key -> new LinkedHashMap<>());
      List<String> wanted = values.stream().filter(each -> !there.containsKey(each)).toList();
      wanted.forEach(each -> there.put(each, new ArrayList<>()));
      for (int i = 0; i < wanted.size(); i += AT_A_TIME) {
        List<String> some = wanted.subList(i, Math.min(wanted.size(), i + AT_A_TIME));
        questions.put(referring(reference, some), reference);
      }
    }
    Answers answers = asker.ask(questions.keySet());
    questions.forEach(
        (question, reference) -> {
          for (List<@Nullable String> row : answers.to(question)) {
            List<String> value = tables.of(reference.from()).values(row, reference.fromColumns());
            if (value != null) {
              Objects.requireNonNull(known.get(reference))
                  .computeIfAbsent(value.get(0), key -> new ArrayList<>())
                  .add(row);
            }
          }
        });
    List<Pick> picks = new ArrayList<>();
    alone.forEach(
        (reference, values) -> {
          for (String each : values) {
            List<List<@Nullable String>> rows = found(reference, each);
            if (!rows.isEmpty()) {
              picks.add(Pick.of(null, tables.of(reference.from()), rows));
            }
          }
        });
    return picks;
  }

  /** How many rows of these there are. */
  long count(KeptRows kept) {
    missing(kept);
    Set<List<Object>> rows = new HashSet<>();
    for (Reference reference : references) {
      alone(reference, kept).stream()
          .filter(each -> !found(reference, each).isEmpty())
          .forEach(each -> rows.add(List.of(reference.to(), each)));
    }
    return rows.size();
  }

  private List<List<@Nullable String>> found(Reference reference, String value) {
    return Objects.requireNonNull(known.get(reference)).getOrDefault(value, List.of());
  }

  /** The values of rows that nothing here refers to. */
  private Set<String> alone(Reference reference, KeptRows kept) {
    Set<String> values = values(reference.to(), reference.toColumns(), kept);
    values.removeAll(new HashSet<>(values(reference.from(), reference.fromColumns(), kept)));
    return values;
  }

  private Set<String> values(Table table, List<String> columns, KeptRows kept) {
    Set<String> values = new LinkedHashSet<>();
    for (List<@Nullable String> row : kept.of(table)) {
      List<String> value = tables.of(table).values(row, columns);
      if (value != null) {
        values.add(value.get(0));
      }
    }
    return values;
  }

  /** For each of the values the row with the least key that refers to it. */
  private Question<List<List<@Nullable String>>> referring(
      Reference reference, List<String> values) {
    TableRows from = tables.of(reference.from());
    String column = reference.fromColumns().get(0);
    String key = from.identity().get(0);
    ColumnType type = reference.from().column(key).orElseThrow().type();
    List<Expression> any =
        values.stream().map(each -> from.equal(List.of(column), List.of(each))).toList();
    Expression where = Sql.any(any);
    Query least =
        Query.of(
            new QueryBody.Select(
                Span.NOWHERE,
                false,
                List.of(Sql.as(TableRows.least(from.column(key), type), "c0")),
                from.from(),
                where,
                List.of(from.column(column)),
                null));
    Expression isLeast =
        new Condition.InQuery(
            Span.NOWHERE, TableRows.comparable(from.column(key), type), least, false);
    return from.where(isLeast, values.size());
  }
}
