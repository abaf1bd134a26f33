package io.lantrel.report;

import io.lantrel.Study;
import io.lantrel.check.Evidence;
import io.lantrel.check.Excepted;
import io.lantrel.check.Finding;
import io.lantrel.check.Kind;
import io.lantrel.check.Repair;
import io.lantrel.check.Severity;
import io.lantrel.sql.Edit;
import io.lantrel.sql.Place;
import io.lantrel.sql.tree.Span;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Findings in the form that programs for looking at them read: SARIF, Static Analysis Results
 * Interchange Format, version 2.1.0 (OASIS Standard, 27 March 2020).
 */
public final class SarifReport {

  private static final String SCHEMA =
      "https://docs.oasis-open.org/sarif/sarif/v2.1.0/os/schemas/sarif-schema-2.1.0.json";

  private SarifReport() {}

  /** All findings of some files as one run. */
  public static String check(List<StudiedFile> files) {
    List<Object> results = new ArrayList<>();
    List<Object> notes = new ArrayList<>();
    for (StudiedFile file : files) {
      for (Study study : file.studies()) {
        study.findings().forEach(each -> results.add(result(file, study, each, Optional.empty())));
        study
            .inspection()
            .excepted()
            .forEach(each -> results.add(result(file, study, each.finding(), Optional.of(each))));
        List<String> unchecked = new ArrayList<>(study.inspection().unchecked());
        study.inspection().refusal().ifPresent(unchecked::add);
        unchecked.forEach(reason -> notes.add(notification(file, study, reason)));
      }
    }
    Map<String, Object> run = new LinkedHashMap<>();
    run.put("tool", Map.of("driver", driver()));
    run.put("columnKind", "utf16CodeUnits");
    run.put(
        "invocations",
        List.of(
            JsonReport.object(
                "executionSuccessful", notes.isEmpty(), "toolExecutionNotifications", notes)));
    run.put("results", results);
    return JsonReport.write(
        JsonReport.object("$schema", SCHEMA, "version", "2.1.0", "runs", List.of(run)));
  }

  private static Map<String, Object> driver() {
    return JsonReport.object(
        "name", "Lantrel", "rules", Arrays.stream(Kind.values()).map(SarifReport::rule).toList());
  }

  private static Map<String, Object> rule(Kind kind) {
    return JsonReport.object(
        "id", kind.id(),
        "shortDescription", message(kind.title()),
        "help", JsonReport.object("text", KindPages.page(kind), "markdown", KindPages.page(kind)),
        "defaultConfiguration", JsonReport.object("level", level(kind.usualSeverity())));
  }

  private static String level(Severity severity) {
    return severity.id();
  }

  private static Map<String, Object> message(String text) {
    return JsonReport.object("text", text);
  }

  private static Map<String, Object> result(
      StudiedFile file, Study study, Finding finding, Optional<Excepted> excepted) {
    Map<String, Object> result =
        JsonReport.object(
            "ruleId", finding.kind().id(),
            "ruleIndex", finding.kind().ordinal(),
            "level", level(finding.severity()),
            "message", message(finding.message() + evidence(finding.evidence())),
            "locations", List.of(location(file, study.place(finding.place()))));
    finding.repair().ifPresent(repair -> result.put("fixes", List.of(fix(file, study, repair))));
    excepted.ifPresent(
        each ->
            result.put(
                "suppressions",
                List.of(JsonReport.object("kind", "inSource", "justification", each.reason()))));
    return result;
  }

  private static String evidence(Evidence evidence) {
    List<String> shown = new ArrayList<>(evidence.facts());
    evidence.rows().forEach(row -> shown.add(row.words()));
    return shown.isEmpty() ? "" : " Shown by: " + String.join("; ", shown) + ".";
  }

  private static Map<String, Object> location(StudiedFile file, Place place) {
    return JsonReport.object(
        "physicalLocation",
        JsonReport.object("artifactLocation", artifact(file), "region", region(place)));
  }

  private static Map<String, Object> artifact(StudiedFile file) {
    return JsonReport.object("uri", uri(file.name()));
  }

  /** A path with what a URI must not hold written by its number (RFC 3986). */
  private static String uri(String path) {
    StringBuilder uri = new StringBuilder();
    for (byte each : path.replace('\\', '/').getBytes(StandardCharsets.UTF_8)) {
      char plain = (char) (each & 0xff);
      boolean kept =
          plain < 128 && (Character.isLetterOrDigit(plain) || "-._~/".indexOf(plain) >= 0);
      uri.append(kept ? String.valueOf(plain) : String.format("%%%02X", each & 0xff));
    }
    return uri.toString();
  }

  private static Map<String, Object> region(Place place) {
    return JsonReport.object(
        "startLine", place.line(),
        "startColumn", place.column(),
        "endLine", place.endLine(),
        "endColumn", place.endColumn());
  }

  private static Map<String, Object> fix(StudiedFile file, Study study, Repair repair) {
    List<Object> replacements = new ArrayList<>();
    for (Edit edit : repair.edits()) {
      Span span = edit.span();
      replacements.add(
          JsonReport.object(
              "deletedRegion", region(study.place(span)),
              "insertedContent", message(edit.text())));
    }
    return JsonReport.object(
        "artifactChanges",
        List.of(
            JsonReport.object("artifactLocation", artifact(file), "replacements", replacements)));
  }

  private static Map<String, Object> notification(StudiedFile file, Study study, String reason) {
    return JsonReport.object(
        "level", "warning",
        "message", message(reason),
        "locations", List.of(location(file, study.place())));
  }
}
