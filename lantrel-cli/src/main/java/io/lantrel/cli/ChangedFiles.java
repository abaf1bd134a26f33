package io.lantrel.cli;

import io.lantrel.engine.DataException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Which files differ from what a revision of git holds: changed, added and removed ones. Git is
 * only asked what the revision holds, and files are compared by their hashes here: to compare them
 * itself, git would run programs that the repository names, and that may be anybody's.
 */
final class ChangedFiles {

  private final Map<Path, String> held = new HashMap<>();
  private final Set<Path> files = new HashSet<>();

  /**
   * Asks git, which must be installed.
   *
   * @param folders the folders that matter, with all below; one at least
   */
  ChangedFiles(Collection<Path> folders, String revision) {
    if (revision.startsWith("-")) {
      throw new DataException("--since takes a revision of git, not " + revision);
    }
    Set<Path> real = new HashSet<>();
    folders.forEach(folder -> real.add(real(folder)));
    Path first = real.iterator().next();
    Path top = real(Path.of(git(first, "rev-parse", "--show-toplevel").strip()));
    String tree = git(top, "ls-tree", "-r", "-z", "--full-tree", revision, "--");
    for (String entry : tree.split("\u0000", -1)) {
      int tab = entry.indexOf('\t');
      if (tab > 0) {
        Path file = top.resolve(entry.substring(tab + 1)).normalize();
        held.put(file, entry.substring(entry.lastIndexOf(' ', tab) + 1, tab));
      }
    }
    held.keySet().stream()
        .filter(file -> isIn(file, real))
        .filter(this::differs)
        .forEach(files::add);
    real.forEach(this::addNew);
  }

  private static boolean isIn(Path file, Set<Path> folders) {
    return folders.stream().anyMatch(file::startsWith);
  }

  private void addNew(Path folder) {
    try (Stream<Path> all = Files.walk(folder)) {
      all.filter(Files::isRegularFile).filter(file -> !held.containsKey(file)).forEach(files::add);
    } catch (IOException unreadable) {
      throw new DataException(folder + ": the folder cannot be read", unreadable);
    }
  }

  /** Whether a file is not as the revision has it; what turns line ends may count as a change. */
  private boolean differs(Path file) {
    String known = held.getOrDefault(file, "");
    try {
      if (!Files.isRegularFile(file)) {
        return true;
      }
      MessageDigest hash = MessageDigest.getInstance(known.length() > 40 ? "SHA-256" : "SHA-1");
      byte[] content = Files.readAllBytes(file);
      hash.update(("blob " + content.length + "\u0000").getBytes(StandardCharsets.US_ASCII));
      return !HexFormat.of().formatHex(hash.digest(content)).equals(known);
    } catch (IOException unreadable) {
      throw new DataException(file + " cannot be read", unreadable);
    } catch (NoSuchAlgorithmException impossible) {
      throw new IllegalStateException("every Java has it", impossible);
    }
  }

  private static String git(Path folder, String... arguments) {
    List<String> command = new ArrayList<>(List.of("git", "-C", folder.toString()));
    command.addAll(List.of(arguments));
    ProcessBuilder program = new ProcessBuilder(command).redirectErrorStream(true);
    // Nothing is fetched from elsewhere.
    program.environment().put("GIT_ALLOW_PROTOCOL", "none");
    try {
      Process process = program.start();
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
