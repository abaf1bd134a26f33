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

  /**
   * Whether a query depends on one of them: itself, its expected tables and what its text names
   * beside it, settings and sample data.
   *
   * @param data the folders of its sample data
   */
  boolean concerns(Path query, String text, List<Path> data) {
    Path file = real(query);
    Path folder = QueryFolder.of(file);
    String stem = String.valueOf(file.getFileName()).replaceFirst("\\.sql$", ".");
    for (Path changed : files) {
      String name = String.valueOf(changed.getFileName());
      boolean expected = name.startsWith(stem) && name.endsWith(".expected.csv");
      boolean named =
          changed.startsWith(folder) && text.contains(folder.relativize(changed).toString());
      boolean settings =
          name.equals(VerifySettings.FILE) && folder.startsWith(QueryFolder.of(changed));
      // Queries may stand within the folder of the sample data; they are no data.
      boolean sample =
          data.stream().map(ChangedFiles::real).anyMatch(QueryFolder.of(changed)::equals);
      if (changed.equals(file)
          || (expected && folder.equals(changed.getParent()))
          || named
          || settings
          || sample) {
        return true;
      }
    }
    return false;
  }

  private static Path real(Path path) {
    try {
      return path.toRealPath();
    } catch (IOException removed) {
      return path.toAbsolutePath().normalize();
    }
  }
}
