package io.lantrel.cli;

import io.lantrel.Study;
import io.lantrel.engine.DatabaseException;
import io.lantrel.report.StudiedFile;
import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.function.BiConsumer;
import org.jspecify.annotations.Nullable;

/**
 * How far statements were worked through: if the database goes away half-way, what had been done is
 * still told.
 *
 * @param done the files up to there, the last one perhaps with fewer statements than it has
 * @param all how many statements there are
 * @param failure what ended it; null if nothing did
 */
record Progress(List<StudiedFile> done, int all, @Nullable DatabaseException failure) {
  Progress {
    done = List.copyOf(done);
  }

  /** Works through all statements in order, until the database goes away. */
  static Progress through(List<StudiedFile> files, BiConsumer<StudiedFile, Study> work) {
    int all = files.stream().mapToInt(file -> file.studies().size()).sum();
    List<StudiedFile> done = new ArrayList<>();
    for (StudiedFile file : files) {
      List<Study> studies = new ArrayList<>();
      for (Study study : file.studies()) {
        try {
          work.accept(file, study);
        } catch (DatabaseException failure) {
          if (!failure.isFatal()) {
            throw failure;
          }
          done.add(new StudiedFile(file.name(), studies));
          return new Progress(done, all, failure);
        }
        studies.add(study);
      }
      done.add(file);
    }
    return new Progress(done, all, null);
  }

  /** How many statements were worked through. */
  int count() {
    return done.stream().mapToInt(file -> file.studies().size()).sum();
  }

  /** Says what ended it and how far it went, if anything ended it. */
  boolean endedEarly(PrintWriter err, String verb) {
    if (failure == null) {
      return false;
    }
    String were = all == 1 ? " statement was " : " statements were ";
    err.println("lantrel: " + failure.getMessage() + "; " + count() + " of " + all + were + verb);
    return true;
  }
}
