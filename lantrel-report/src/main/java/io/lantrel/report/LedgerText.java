package io.lantrel.report;

import io.lantrel.engine.NamedRow;
import io.lantrel.ledger.Cause;
import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;

/** The account as a table that adds up from left to right, and the reasons below it. */
final class LedgerText {

  private static final int GAP = 15;

  private final Style style;

  LedgerText(Style style) {
    this.style = style;
  }

  String write(Ledger ledger) {
    List<String> lines = new ArrayList<>();
    for (Ledger part : ledger.parts()) {
      lines.add(style.strong("The rows of " + part.name()));
      lines.add(write(part));
    }
    if (!ledger.parts().isEmpty()) {
      lines.add(
          style.strong(
              ledger.name().isEmpty() ? "The rows of the query" : "The rows of " + ledger.name()));
    }
    lines.addAll(account(ledger));
    lines.addAll(reasons(ledger));
    return String.join("\n", lines) + "\n";
  }

  private List<String> account(Ledger ledger) {
    List<Figure> shown =
        Arrays.stream(Figure.values())
            .filter(figure -> ledger.entries().stream().anyMatch(each -> each.rows(figure) > 0))
            .toList();
    List<Figure> moving = shown.stream().filter(figure -> figure.sign() != 0).toList();
    List<Figure> memos = shown.stream().filter(figure -> figure.sign() == 0).toList();
    List<List<String>> rows = new ArrayList<>();
    List<Boolean> numbers = new ArrayList<>(List.of(false, true));
    List<String> head = new ArrayList<>(List.of("step", "before"));
    moving.forEach(figure -> head.add((figure.sign() < 0 ? "− " : "+ ") + word(figure)));
    head.add("= after");
    memos.forEach(figure -> head.add(word(figure)));
    head.stream().skip(2).forEach(each -> numbers.add(true));
    rows.add(head.stream().map(style::faint).toList());
    int room = style.width() - 4 - head.stream().skip(1).mapToInt(each -> each.length() + 2).sum();
    for (Entry entry : ledger.entries()) {
      List<String> row = new ArrayList<>();
      row.add(shortened(entry.words(), room));
      row.add(entry.kind() == Entry.Kind.FROM ? "" : number(entry.before()));
      moving.forEach(figure -> row.add(coloured(figure, entry.rows(figure))));
      row.add(style.strong(number(entry.after())));
      memos.forEach(figure -> row.add(style.faint(orEmpty(entry.rows(figure)))));
      rows.add(row);
    }
    return Layout.table(rows, numbers, 2);
  }

  private String coloured(Figure figure, long rows) {
    String text = orEmpty(rows);
    return figure.sign() < 0 ? style.gone(text) : style.come(text);
  }

  private static String orEmpty(long rows) {
    return rows == 0 ? "" : number(rows);
  }

  private static String number(long number) {
    return String.format(Locale.ROOT, "%,d", number);
  }

  private static String word(Figure figure) {
    return figure.name().toLowerCase(Locale.ROOT);
  }

  private static String shortened(String text, int room) {
    int limit = Math.max(20, room);
    return text.length() <= limit ? text : text.substring(0, limit - 1) + "…";
  }

  private List<String> reasons(Ledger ledger) {
    List<String> lines = new ArrayList<>();
    for (Entry entry : ledger.entries()) {
      List<String> below = new ArrayList<>();
      for (Change change : entry.changes()) {
        change.causes().forEach(cause -> below.addAll(cause(change, cause)));
      }
      String broken = promise(entry);
      if (!below.isEmpty() || !broken.isEmpty()) {
        lines.add("");
        lines.add("  " + style.strong(entry.words()) + style.faint(broken));
        lines.addAll(below);
      }
    }
    return lines;
  }

  private static String promise(Entry entry) {
    if (entry.promise() == null) {
      return "";
    }
    boolean any = entry.promise().startsWith("any");
    String words =
        "keys and references promise a row "
            + entry.promise()
            + (any ? " of partners" : " partner");
    long none = entry.rows(Figure.DROPPED) + entry.rows(Figure.FILLED);
    if (entry.promise().startsWith("exactly") && none > 0) {
      words += ", and " + number(none) + (none == 1 ? " row has none" : " rows have none");
    }
    if (!any && entry.rows(Figure.REPEATED) > 0) {
      words += ", and some have more";
    }
    return "  " + words;
  }

  private List<String> cause(Change change, Cause cause) {
    String label = word(change.figure()) + " " + number(cause.rows());
    List<String> lines =
        new ArrayList<>(Layout.labelled(label, cause.reason(), 4, GAP, style.width()));
    if (!cause.examples().isEmpty()) {
      String rows =
          cause.examples().stream().map(NamedRow::words).collect(Collectors.joining(", "));
      // Of repeated rows the reason itself tells how many they are.
      long more = change.figure() == Figure.REPEATED ? 0 : cause.rows() - cause.examples().size();
      String rest = more > 0 ? ", and " + number(more) + " more" : "";
      Layout.wrapped(rows + rest, 4 + GAP, style.width())
          .forEach(line -> lines.add(style.faint(line)));
    }
    return lines;
  }
}
