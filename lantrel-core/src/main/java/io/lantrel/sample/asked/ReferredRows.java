package io.lantrel.sample.asked;

import io.lantrel.catalog.Reference;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.sql.tree.Expression;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Adds the rows that rows refer to, up to the roots: one round for each level. */
final class ReferredRows {

  private static final int AT_A_TIME = 100;

  private final List<Reference> references;
  private final AllRows tables;
  private final Asker asker;

  /** The values that were looked up, or are known to be there. */
  private final Map<Reference, Set<List<String>>> asked = new LinkedHashMap<>();

  /** The rows that were found, by their values as engines that are not strict compare them. */
  private final Map<Reference, Map<List<String>, List<List<@Nullable String>>>> found =
      new LinkedHashMap<>();

  ReferredRows(List<Reference> references, AllRows tables, Asker asker) {
    this.references = references;
    this.tables = tables;
    this.asker = asker;
  }

  /** Completes what is taken. */
  void addTo(KeptRows kept) {
    boolean more = true;
    while (more) {
      lookUp(kept);
      more = false;
      for (Reference reference : references) {
        TableRows to = tables.of(reference.to());
        for (List<String> values : referring(reference, kept)) {
          for (List<@Nullable String> row :
              found(reference).getOrDefault(loose(values), List.of())) {
            more |= kept.add(to, row);
          }
        }
      }
    }
  }

  private void lookUp(KeptRows kept) {
    Map<Question<List<List<@Nullable String>>>, Reference> questions = new LinkedHashMap<>();
    for (Reference reference : references) {
      TableRows to = tables.of(reference.to());
      Set<List<String>> known = asked.computeIfAbsent(reference, key -> new HashSet<>());
      kept.of(reference.to()).forEach(row -> put(reference, row));
      List<List<String>> wanted = referring(reference, kept).stream().filter(known::add).toList();
      for (int i = 0; i < wanted.size(); i += AT_A_TIME) {
        List<Expression> any =
            wanted.subList(i, Math.min(wanted.size(), i + AT_A_TIME)).stream()
                .map(each -> to.equal(reference.toColumns(), each))
                .toList();
        questions.put(to.where(Sql.any(any), 4 * AT_A_TIME), reference);
      }
    }
    if (!questions.isEmpty()) {
      Answers answers = asker.ask(questions.keySet());
      questions.forEach(
          (question, reference) -> answers.to(question).forEach(row -> put(reference, row)));
    }
  }

  private void put(Reference reference, List<@Nullable String> row) {
    List<String> values = tables.of(reference.to()).values(row, reference.toColumns());
    if (values == null) {
      return;
    }
    asked.computeIfAbsent(reference, key -> new HashSet<>()).add(values);
    List<List<@Nullable String>> same =
        found(reference).computeIfAbsent(loose(values), key -> new ArrayList<>());
    if (!same.contains(row)) {
      same.add(row);
    }
  }

  /** Some engines pass over case and blanks at the end, and 5 and 5.0 are equal for all. */
  private static List<String> loose(List<String> values) {
    return values.stream()
        .map(each -> each.stripTrailing().toLowerCase(Locale.ROOT))
        .map(each -> each.matches("-?[0-9]+\\.0+") ? each.replaceFirst("\\..*", "") : each)
        .toList();
  }

  /** The values by which rows that are taken refer. */
  private Set<List<String>> referring(Reference reference, KeptRows kept) {
    TableRows from = tables.of(reference.from());
    Set<List<String>> values = new LinkedHashSet<>();
    for (List<@Nullable String> row : kept.of(reference.from())) {
      List<String> each = from.values(row, reference.fromColumns());
      if (each != null) {
        values.add(each);
      }
    }
    return values;
  }

  private Map<List<String>, List<List<@Nullable String>>> found(Reference reference) {
    return found.computeIfAbsent(reference, key -> new LinkedHashMap<>());
  }
}
