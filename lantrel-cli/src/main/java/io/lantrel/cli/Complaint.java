package io.lantrel.cli;

import io.lantrel.Study;
import io.lantrel.engine.DatabaseException;
import io.lantrel.failure.LantrelException;
import io.lantrel.report.StudiedFile;
import io.lantrel.report.Visible;
import io.lantrel.sql.SyntaxException;
import java.io.PrintWriter;

/** Says of one statement of several why there is no answer. */
final class Complaint {

  private Complaint() {}

  /**
   * Says it, with the place and with the option that would help.
   *
   * @throws LantrelException the failure itself, if the database is lost: then no statement has one
   */
  static int about(StudiedFile file, Study study, LantrelException failure, PrintWriter err) {
    // What is wrong with the text has a place of its own.
    String place =
        failure instanceof SyntaxException
            ? ""
            : ":" + study.place().line() + ":" + study.place().column();
    if (failure instanceof DatabaseException lost && lost.isFatal()) {
      throw failure;
    }
    err.println(
        "lantrel: "
            + Visible.line(file.name())
            + place
            + ": "
            + Visible.line(String.valueOf(failure.getMessage())));
    AllowHint.after(failure.getMessage(), err);
    return ExitCode.COULD_NOT_RUN;
  }
}
