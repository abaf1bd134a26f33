package io.lantrel.claim.asked;

import io.lantrel.claim.CheckedClaim;
import io.lantrel.claim.Claim;
import io.lantrel.claim.Verdict;
import io.lantrel.edit.OneQuery;
import io.lantrel.resolve.OutputColumn;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * Claims of a query that are met: what could be worth claiming is verified, and the rest left out.
 */
public final class Suggester {

  /** A name with a line end would lead out of the comment that makes a claim. */
  private static final Pattern MORE_THAN_A_LINE =
      Pattern.compile("[\\p{Cntrl}\\u0085\\u2028\\u2029]");

  private final Verifier verifier;

  public Suggester(Verifier verifier) {
    this.verifier = verifier;
  }

  /**
   * The strongest first.
   *
   * @param known claims that the query has already
   */
  public List<CheckedClaim> suggest(OneQuery query, List<Claim> known) {
    Candidates candidates = new Candidates(query.resolution());
    List<String> texts = new ArrayList<>();
    texts.addAll(candidates.rowsPerTable());
    texts.addAll(candidates.rowsPerColumns());
    texts.addAll(candidates.everyRow());
    Map<String, OutputColumn> columns = new HashMap<>();
    candidates
        .withoutNull()
        .forEach(
            output -> {
              String text = "no null in " + candidates.written(output);
              columns.put(text, output);
              texts.add(text);
            });
    texts.addAll(candidates.totals());
    texts.addAll(candidates.orderAndCount());
    texts.addAll(candidates.levels(verifier.depth(query, Candidates.MOST_LEVELS)));
    texts.removeIf(text -> MORE_THAN_A_LINE.matcher(text).find());
    List<CheckedClaim> met =
        verifier
            .verdicts(query, texts.stream().distinct().map(Claim::of).toList())
            .claims()
            .stream()
            .filter(each -> each.verdict().isMet())
            .toList();
    List<CheckedClaim> told = new ArrayList<>(clear(met, columns, candidates));
    Set<String> already =
        known.stream().map(claim -> plain(claim.text())).collect(Collectors.toSet());
    told.removeIf(each -> already.contains(plain(each.claim().text())));
    told.sort(Comparator.comparing(CheckedClaim::verdict));
    return told;
  }

  private static String plain(String text) {
    return text.strip().toLowerCase(Locale.ROOT).replaceAll("\\s+", " ");
  }

  /** Columns without NULL in one claim; of several keys, and of several levels, one. */
  private static List<CheckedClaim> clear(
      List<CheckedClaim> met, Map<String, OutputColumn> columns, Candidates candidates) {
    List<CheckedClaim> told = new ArrayList<>();
    boolean keyed = false;
    boolean levelled = false;
    for (CheckedClaim each : met) {
      String text = each.claim().text();
      boolean key = text.startsWith("one row per ");
      boolean levels = text.startsWith("levels at most ");
      if (!columns.containsKey(text) && !(key && keyed) && !(levels && levelled)) {
        told.add(each);
      }
      keyed |= key;
      levelled |= levels;
    }
    for (Verdict verdict : List.of(Verdict.PROVEN, Verdict.HOLDS)) {
      List<CheckedClaim> same =
          met.stream()
              .filter(each -> each.verdict() == verdict)
              .filter(each -> columns.containsKey(each.claim().text()))
              .toList();
      if (!same.isEmpty()) {
        List<OutputColumn> outputs = new ArrayList<>();
        same.forEach(each -> outputs.add(columns.get(each.claim().text())));
        String reason =
            same.size() == 1 || verdict == Verdict.HOLDS
                ? same.get(0).reason()
                : "so for any data that keep the schema";
        told.add(
            CheckedClaim.of(
                Claim.of("no null in " + candidates.names(outputs)),
                verdict,
                same.size() > 1 && verdict == Verdict.HOLDS ? "so on this data" : reason));
      }
    }
    return told;
  }
}
