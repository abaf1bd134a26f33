package io.lantrel.report;

import io.lantrel.Study;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A statement that has no answer.
 *
 * @param file its file, as the user named it
 * @param reason why there is none, in words
 */
public record FailedStatement(String file, Study study, String reason) {

  /** As JSON; null for none, so that it is left out. */
  static @Nullable List<Map<String, Object>> json(List<FailedStatement> failed) {
    return failed.isEmpty()
        ? null
        : failed.stream()
            .map(
                each ->
                    JsonReport.object(
                        "file", each.file(),
                        "statement", each.study().number(),
                        "line", each.study().place().line(),
                        "reason", each.reason()))
            .toList();
  }
}
