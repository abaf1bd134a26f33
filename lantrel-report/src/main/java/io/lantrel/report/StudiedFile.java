package io.lantrel.report;

import io.lantrel.Study;
import java.util.List;

/**
 * The statements of one file.
 *
 * @param name the file as the user named it
 * @param studies its statements
 */
public record StudiedFile(String name, List<Study> studies) {
  public StudiedFile {
    studies = List.copyOf(studies);
  }
}
