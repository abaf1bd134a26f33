package io.lantrel.cli;

import io.lantrel.engine.DataException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * What changed in git since a revision: changed, added and removed files, and those not yet known.
 */
final class ChangedFiles {

  private final Set<Path> files = new HashSet<>();

  /**
   * Asks git, which must be installed.
   *
   * @param folder a folder of the repository
   */
  ChangedFiles(Path folder, String revision) {
    if (revision.startsWith("-")) {
      throw new DataException("--since takes a revision of git, not " + revision);
    }
    Path top = Path.of(git(folder, List.of("rev-parse", "--show-toplevel")).strip());
    add(top, git(top, List.of("diff", "--name-only", "-z", revision, "--")));
    add(top, git(top, List.of("ls-files", "--others", "--exclude-standard", "-z")));
  }

  private void add(Path top, String names) {
    for (String name : names.split("\u0000", -1)) {
      if (!name.isEmpty()) {
        files.add(top.resolve(name).normalize());
      }
    }
  }

  private static String git(Path folder, List<String> arguments) {
    List<String> command =
        new ArrayList<>(List.of("git", "-C", folder.toAbsolutePath().toString()));
    command.addAll(arguments);
    try {
      Process process = new ProcessBuilder(command).redirectErrorStream(true).start();
      process.getOutputStream().close();
      String answer;
      try (InputStream out = process.getInputStream()) {
        answer = new String(out.readAllBytes(), StandardCharsets.UTF_8);
      }
      if (process.waitFor() != 0) {
        throw new DataException(
            "--since: git says: " + answer.lines().findFirst().orElse("nothing"));
      }
      return answer;
    } catch (IOException missing) {
      throw new DataException("--since asks git, which does not start here", missing);
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
      throw new DataException("--since: stopped while git was asked", stopped);
    }
  }

  /** Whether one of these files, or a file in one of these folders, is among them. */
  boolean concerns(List<Path> files, List<Path> folders) {
    return files.stream().map(ChangedFiles::real).anyMatch(this.files::contains)
        || folders.stream()
            .map(ChangedFiles::real)
            .anyMatch(folder -> this.files.stream().anyMatch(each -> isData(each, folder)));
  }

  /** Queries may stand within the folder of the sample data; they are no data. */
  private static boolean isData(Path file, Path folder) {
    return folder.equals(file.getParent());
  }

  private static Path real(Path path) {
    try {
      return path.toRealPath();
    } catch (IOException removed) {
      return path.toAbsolutePath().normalize();
    }
  }
}
