package io.lantrel.cli;

import io.lantrel.Study;
import io.lantrel.engine.Limits;
import java.io.PrintWriter;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Says which option allows a function that was not run. */
final class AllowHint {

  private AllowHint() {}

  /** Says it once, if one of the studies needs it. */
  static void after(List<Study> studies, PrintWriter err) {
    after(
        studies.stream()
            .map(Study::inspection)
            .flatMap(each -> Stream.concat(each.refusal().stream(), each.unchecked().stream())),
        err);
  }

  /** Says it, if the message of a failure needs it. */
  static void after(@Nullable String message, PrintWriter err) {
    after(Stream.ofNullable(message), err);
  }

  private static void after(Stream<String> told, PrintWriter err) {
    if (told.filter(Objects::nonNull).anyMatch(each -> each.contains(Limits.ALLOW))) {
      err.println("lantrel: the option for that is --allow-function NAME");
    }
  }
}
