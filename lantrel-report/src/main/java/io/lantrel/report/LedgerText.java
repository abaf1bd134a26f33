package io.lantrel.report;

import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.LedgerOfPart;
import io.lantrel.ledger.Naming;
import io.lantrel.ledger.RowsFound;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** The account as a table that adds up from left to right, and the reasons below it. */
final class LedgerText {

  /** Stands before figures that are estimates. */
  private static final String ABOUT = "≈";

  private final Style style;
  private final CauseText causes;
  private final String about;

  LedgerText(Style style) {
    this(style, "");
  }

  private LedgerText(Style style, String about) {
    this.style = style;
    this.about = about;
    this.causes = new CauseText(style, about);
  }

  /** The account of a part of the rows, as it is likely to be for all. */
  static String write(LedgerOfPart part, Style style) {
    List<String> lines = new ArrayList<>();
    if (part.looked() == 0 && !part.isWhole()) {
      String none = "None of the " + Words.rows(part.of()) + " of " + part.table();
      String more = " is in so small a part; more of them are to be looked at.";
      return String.join("\n", Layout.wrapped(none + more, 2, style.width())) + "\n";
    }
    String whole =
        "All "
            + Words.rows(part.of())
            + " of "
            + part.table()
            + " were looked at, so that the"
            + " figures are exact.";
    String some =
        "Looked at: "
            + Words.number(part.looked())
            + " of "
            + Words.rows(part.of())
            + " of "
            + part.table()
            + " ("
            + percent(part)
            + "), taken by "
            + Words.list(part.by())
            + ". The figures are about what they are for all rows; what none of them shows may still"
            + " be true of up to about "
            + Words.number(part.unseen())
            + ".";
    lines.addAll(Layout.wrapped(part.isWhole() ? whole : some, 2, style.width()));
    lines.add("");
    Ledger ledger = part.estimated();
    LedgerText text = new LedgerText(style, part.isWhole() ? "" : ABOUT);
    lines.addAll(text.account(ledger));
    lines.addAll(text.reasons(ledger));
    if (!ledger.untold().isEmpty()) {
      lines.add("");
      lines.addAll(
          Layout.wrapped(
              "Only all rows tell " + String.join(", and ", ledger.untold()) + ".",
              2,
              style.width()));
    }
    return String.join("\n", lines) + "\n";
  }

  private static String percent(LedgerOfPart part) {
    double percent = part.of() == 0 ? 100 : 100.0 * part.looked() / part.of();
    return String.format(Locale.ROOT, percent < 1 ? "%.2g %%" : "%.1f %%", percent);
  }

  /** The account, and all rows of one figure of it. */
  String write(Ledger ledger, Naming naming) {
    Figure figure = naming.figure();
    if (figure == null) {
      return write(ledger);
    }
    Entry entry = ledger.entries().get(naming.step() - 1);
    List<String> lines = account(ledger);
    lines.add("");
    lines.add("  " + style.strong(entry.words()));
    Optional<Change> change = entry.change(figure).filter(each -> each.rows() > 0);
    if (change.isEmpty()) {
      lines.add("    No row is " + word(figure) + " at this step.");
    } else if (change.get().causes().isEmpty()) {
      lines.add("    Rows that are " + word(figure) + " here are not named.");
    } else {
      change
          .get()
          .causes()
          .forEach(each -> lines.addAll(causes.of(word(figure), each, hasRest(figure))));
    }
    return String.join("\n", lines) + "\n";
  }

  String write(Ledger ledger) {
    List<String> lines = new ArrayList<>();
    List<Ledger> parts = ledger.parts().stream().filter(part -> !isTrivial(part)).toList();
    for (Ledger part : parts) {
      // One that has parts itself says whose rows they are behind these.
      if (part.parts().stream().allMatch(LedgerText::isTrivial)) {
        lines.add(style.strong("The rows of " + part.name()));
      }
      lines.add(write(part));
    }
    if (!parts.isEmpty()) {
      lines.add(
          style.strong(
              ledger.name().isEmpty() ? "The rows of the query" : "The rows of " + ledger.name()));
    }
    lines.addAll(account(ledger));
    lines.addAll(reasons(ledger));
    ledger.found().forEach(found -> lines.addAll(found(found)));
    for (String untold : ledger.untold()) {
      lines.add("");
      lines.addAll(Layout.wrapped("Not told: " + untold + ".", 2, style.width()));
    }
    return String.join("\n", lines) + "\n";
  }

  /** All rows of one table, whose number the next step tells as well. */
  private static boolean isTrivial(Ledger part) {
    return part.entries().size() == 1
        && part.parts().stream().allMatch(LedgerText::isTrivial)
        && part.found().isEmpty()
        && part.untold().isEmpty();
  }

  private List<String> account(Ledger ledger) {
    List<Figure> shown =
        Arrays.stream(Figure.values())
            .filter(figure -> ledger.entries().stream().anyMatch(each -> each.rows(figure) > 0))
            .toList();
    List<Figure> moving = shown.stream().filter(figure -> figure.sign() != 0).toList();
    List<Figure> memos = shown.stream().filter(figure -> figure.sign() == 0).toList();
    List<List<String>> rows = new ArrayList<>();
    List<Boolean> numbers = new ArrayList<>(List.of(true, false, true));
    List<String> head = new ArrayList<>(List.of("", "step", "before"));
    moving.forEach(figure -> head.add((figure.sign() < 0 ? "− " : "+ ") + word(figure)));
    head.add("= after");
    memos.forEach(figure -> head.add(word(figure)));
    head.stream().skip(3).forEach(each -> numbers.add(true));
    rows.add(head.stream().map(style::faint).toList());
    int room = style.width() - 8 - head.stream().skip(2).mapToInt(each -> each.length() + 2).sum();
    for (Entry entry : ledger.entries()) {
      List<String> row = new ArrayList<>();
      row.add(style.faint(String.valueOf(rows.size())));
      row.add(shortened(entry.words(), room));
      row.add(entry.kind() == Entry.Kind.FROM ? "" : number(entry.before()));
      moving.forEach(figure -> row.add(coloured(entry, figure)));
      row.add(style.strong(number(entry.after())));
      memos.forEach(
          figure ->
              row.add(
                  isAgainstPromise(entry, figure)
                      ? coloured(entry, figure)
                      : style.faint(orEmpty(entry.rows(figure)))));
      rows.add(row);
    }
    return new ArrayList<>(Layout.table(rows, numbers, 2));
  }

  /** What is against the promise deserves a look. */
  private String coloured(Entry entry, Figure figure) {
    String text = orEmpty(entry.rows(figure));
    return isAgainstPromise(entry, figure) ? style.gone(text) : text;
  }

  private static boolean isAgainstPromise(Entry entry, Figure figure) {
    String promise = entry.promise();
    return promise != null
        && switch (figure) {
          case DROPPED, FILLED -> promise.startsWith("exactly");
          case REPEATED -> !promise.startsWith("any");
          default -> false;
        };
  }

  private String orEmpty(long rows) {
    return rows == 0 ? "" : number(rows);
  }

  private String number(long number) {
    return about + String.format(Locale.ROOT, "%,d", number);
  }

  private static String word(Figure figure) {
    return figure.name().toLowerCase(Locale.ROOT);
  }

  private static String shortened(String text, int room) {
    int limit = Math.max(20, room);
    return text.length() <= limit ? text : text.substring(0, limit - 1) + "…";
  }

  private List<String> found(RowsFound found) {
    List<String> lines = new ArrayList<>(List.of(""));
    lines.add("  " + style.strong(shortened(found.words(), style.width() - 2)));
    List<String> shares = new ArrayList<>();
    shares.add(number(found.none()) + (found.none() == 1 ? " finds none" : " find none"));
    shares.add(number(found.one()) + (found.one() == 1 ? " finds one" : " find one"));
    if (found.several() > 0) {
      shares.add(
          number(found.several())
              + (found.several() == 1 ? " finds several" : " find several")
              + (" (at most " + number(found.most()) + ")"));
    }
    String text =
        "Of "
            + Words.rows(found.outside())
            + " outside, "
            + Words.list(shares)
            + "; "
            + Words.rows(found.found())
            + " in all.";
    lines.addAll(Layout.wrapped(text, 4, style.width()));
    return lines;
  }

  private List<String> reasons(Ledger ledger) {
    List<String> lines = new ArrayList<>();
    for (Entry entry : ledger.entries()) {
      List<String> below = new ArrayList<>();
      for (Change change : entry.changes()) {
        change
            .causes()
            .forEach(
                cause ->
                    below.addAll(
                        causes.of(word(change.figure()), cause, hasRest(change.figure()))));
      }
      if (!below.isEmpty() || entry.partners() != null) {
        lines.add("");
        lines.add("  " + style.strong(entry.words()));
        partners(entry).ifPresent(each -> lines.addAll(faint(each)));
        promise(entry).ifPresent(each -> lines.addAll(faint(each)));
        lines.addAll(below);
      }
    }
    return lines;
  }

  /** Of repeated and merged rows the reason itself tells how many they are. */
  private boolean hasRest(Figure figure) {
    return figure != Figure.REPEATED && figure != Figure.MERGED && about.isEmpty();
  }

  private List<String> faint(String text) {
    return Layout.wrapped(text, 4, style.width()).stream().map(style::faint).toList();
  }

  /** As people count it: so many of so many found a partner. */
  private Optional<String> partners(Entry entry) {
    Entry.Partners partners = entry.partners();
    if (partners == null) {
      return Optional.empty();
    }
    Entry.Share right = partners.right();
    String left = share(partners.left(), "row") + " found a partner";
    return Optional.of(
        right == null
            ? left
            : left + "; " + share(right, "row") + " of " + partners.joined() + " " + was(right));
  }

  private String share(Entry.Share share, String noun) {
    if (!about.isEmpty() && share.rows() == share.of()) {
      return "all rows that were looked at";
    }
    String of = about + Words.count(share.of(), noun);
    return share.rows() == share.of() && share.of() > 1
        ? "all " + of
        : number(share.rows()) + " of " + of;
  }

  private static String was(Entry.Share share) {
    return share.rows() == 1 ? "was found" : "were found";
  }

  /** That a row can have any number of partners is no promise. */
  private Optional<String> promise(Entry entry) {
    if (entry.promise() == null || entry.promise().startsWith("any")) {
      return Optional.empty();
    }
    String words = "keys and references promise a row " + entry.promise() + " partner";
    long none = entry.rows(Figure.DROPPED) + entry.rows(Figure.FILLED);
    if (entry.promise().startsWith("exactly") && none > 0) {
      words += ", and " + number(none) + (none == 1 ? " row has none" : " rows have none");
    }
    if (entry.rows(Figure.REPEATED) > 0) {
      words += ", and some have more";
    }
    return Optional.of(words);
  }
}
