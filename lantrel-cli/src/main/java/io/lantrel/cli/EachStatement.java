package io.lantrel.cli;

import io.lantrel.Study;
import io.lantrel.failure.LantrelException;
import io.lantrel.report.FailedStatement;
import io.lantrel.report.StudiedFile;
import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.BiConsumer;

/**
 * Statements of which one that fails does not keep the others from theirs.
 *
 * @param lost whether the database went away before the last one
 * @param failed those without an answer; those after the end are among them
 */
record EachStatement(int exit, boolean lost, List<FailedStatement> failed) {
  EachStatement {
    failed = List.copyOf(failed);
  }

  /**
   * Works through them; a lost database ends it.
   *
   * @param err where it is said why a statement failed, or what ended it
   * @param verb what was done with those before the end, as {@code run}
   */
  static EachStatement through(
      List<StudiedFile> files, PrintWriter err, String verb, BiConsumer<StudiedFile, Study> work) {
    AtomicInteger exit = new AtomicInteger(ExitCode.FINE);
    List<FailedStatement> failed = new ArrayList<>();
    Progress progress =
        Progress.through(
            files,
            (file, study) -> {
              try {
                work.accept(file, study);
              } catch (LantrelException failure) {
                exit.set(Complaint.about(file, study, failure, err));
                failed.add(failed(file, study, failure));
              }
            });
    boolean lost = progress.endedEarly(err, verb);
    if (lost) {
      exit.set(ExitCode.COULD_NOT_RUN);
      failed.addAll(after(progress, files));
    }
    return new EachStatement(exit.get(), lost, failed);
  }

  /** Those that nothing was done with when the database went away. */
  private static List<FailedStatement> after(Progress progress, List<StudiedFile> files) {
    LantrelException end = Objects.requireNonNull(progress.failure());
    return files.stream()
        .flatMap(file -> file.studies().stream().map(study -> failed(file, study, end)))
        .skip(progress.count())
        .toList();
  }

  private static FailedStatement failed(StudiedFile file, Study study, LantrelException failure) {
    return new FailedStatement(file.name(), study, String.valueOf(failure.getMessage()));
  }
}
