package io.lantrel.cli;

import io.lantrel.Study;
import io.lantrel.failure.LantrelException;
import io.lantrel.report.StudiedFile;
import java.io.PrintWriter;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.BiConsumer;

/** Statements of which one that fails does not keep the others from theirs. */
final class EachStatement {

  private EachStatement() {}

  /**
   * Works through them; a lost database ends it.
   *
   * @param err where it is said why a statement failed, or what ended it
   * @param verb what was done with those before the end, as {@code run}
   * @return the exit code
   */
  static int through(
      List<StudiedFile> files, PrintWriter err, String verb, BiConsumer<StudiedFile, Study> work) {
    AtomicInteger exit = new AtomicInteger(ExitCode.FINE);
    Progress progress =
        Progress.through(
            files,
            (file, study) -> {
              try {
                work.accept(file, study);
              } catch (LantrelException failure) {
                exit.set(Complaint.about(file, study, failure, err));
              }
            });
    return progress.endedEarly(err, verb) ? ExitCode.COULD_NOT_RUN : exit.get();
  }
}
