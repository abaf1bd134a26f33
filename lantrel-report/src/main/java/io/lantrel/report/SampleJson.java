package io.lantrel.report;

import io.lantrel.SampleDifference;
import io.lantrel.catalog.Reference;
import io.lantrel.sample.Sample;
import io.lantrel.sample.SampledTable;
import io.lantrel.sample.Trait;
import java.util.List;
import java.util.Map;

/** What a sample has and has not, as JSON. */
public final class SampleJson {

  private SampleJson() {}

  /**
   * The sample, without its rows.
   *
   * @param differences what queries show otherwise on it, as {@link SampleText} tells it
   */
  public static String sample(Sample sample, List<SampleDifference> differences) {
    return JsonReport.write(
        JsonReport.object(
            "version", JsonReport.VERSION,
            "rows", sample.size(),
            "there", sample.sizeThere(),
            "tables", sample.tables().stream().map(SampleJson::table).toList(),
            "followed", sample.followed().stream().map(Reference::words).toList(),
            "traits", sample.traits().stream().map(SampleJson::trait).toList(),
            "alone", sample.childless(),
            "masked", sample.masked(),
            "differences", differences.stream().map(SampleJson::difference).toList(),
            "remarks", sample.remarks()));
  }

  private static Map<String, Object> table(SampledTable table) {
    return JsonReport.object(
        "name", table.table().name(), "rows", table.rows().size(), "there", table.there());
  }

  private static Map<String, Object> trait(Trait trait) {
    return JsonReport.object(
        "table", trait.table(),
        "sort", trait.sort().id(),
        "about", trait.about(),
        "words", trait.words(),
        "outcome", trait.outcome().id());
  }

  private static Map<String, Object> difference(SampleDifference difference) {
    return JsonReport.object(
        "file", difference.file(), "line", difference.line(), "words", difference.words());
  }
}
