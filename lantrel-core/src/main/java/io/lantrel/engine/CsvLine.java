package io.lantrel.engine;

import java.util.List;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.QuoteMode;
import org.jspecify.annotations.Nullable;

/** Lines of CSV as sample data has them, and as they are read again. */
public final class CsvLine {

  private static final CSVFormat FORMAT =
      CSVFormat.RFC4180
          .builder()
          .setRecordSeparator('\n')
          .setQuoteMode(QuoteMode.ALL_NON_NULL)
          .get();

  private CsvLine() {}

  /** A line with its end (RFC 4180); null becomes an empty field, an empty text {@code ""}. */
  public static String of(List<? extends @Nullable String> values) {
    return FORMAT.format(values.toArray()) + "\n";
  }
}
