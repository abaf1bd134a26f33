package io.lantrel.cli;

import io.lantrel.ledger.RowShare;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.ParameterException;

/** How a part of the rows is written: {@code 100000}, {@code 0.5%}. */
final class ShareText {

  private static final Pattern SHARE = Pattern.compile("([0-9]{1,12})((?:\\.[0-9]{1,6})? *%)?");

  private ShareText() {}

  /** Reads what stands behind {@code --about}. */
  static RowShare read(String text, CommandSpec spec) {
    Matcher share = SHARE.matcher(text.strip());
    if (share.matches()) {
      String part = share.group(2);
      long whole = Long.parseLong(share.group(1));
      if (part == null && whole > 0) {
        return RowShare.rows(whole);
      }
      double percent = part == null ? 0 : Double.parseDouble(whole + part.replace("%", "").strip());
      if (percent > 0 && percent <= 100) {
        return RowShare.percent(percent);
      }
    }
    throw new ParameterException(
        spec.commandLine(),
        "--about takes a number of rows from 1 on, or a part of them, as 0.5% or 10%; not " + text);
  }
}
