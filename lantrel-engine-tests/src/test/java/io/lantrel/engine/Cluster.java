package io.lantrel.engine;

import io.lantrel.Scratch;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Properties;
import java.util.concurrent.locks.LockSupport;
import java.util.stream.Stream;

/**
 * A Trino cluster of a coordinator and two workers: a process of its own, since it needs a newer
 * Java than these tests. Its jars are in the module lantrel-cluster.
 */
final class Cluster implements AutoCloseable {

  /** Since when Trino runs on it. */
  private static final int JAVA = 24;

  private static final Path JARS = Path.of("..", "lantrel-cluster", "target", "lib");

  private static final Duration PATIENCE = Duration.ofMinutes(2);

  private final Process process;
  private final Path log;
  private final String url;

  private Cluster(Process process, Path log) throws IOException {
    this.process = process;
    this.log = log;
    this.url = "jdbc:trino://" + answer("READY").strip() + "/memory/default";
  }

  /**
   * Starts one.
   *
   * @throws IOException if there is no such Java, or it does not start
   */
  static Cluster start() throws IOException {
    Path log = Scratch.file("trino", ".log");
    Path program = Scratch.folder("trino").resolve("Cluster.java");
    try (InputStream source =
        Objects.requireNonNull(Cluster.class.getResourceAsStream("cluster/Cluster.java"))) {
      Files.copy(source, program);
    }
    Process process =
        new ProcessBuilder(
                java().toString(),
                "--add-modules",
                "jdk.incubator.vector",
                "-Xmx3g",
                "-XX:TieredStopAtLevel=1",
                // A worker that is killed leaves its folders.
                "-Djava.io.tmpdir=" + Scratch.folder("cluster"),
                "-cp",
                JARS + "/*",
                program.toString())
            .redirectErrorStream(true)
            .redirectOutput(log.toFile())
            .start();
    Runtime.getRuntime().addShutdownHook(new Thread(process::destroyForcibly));
    return new Cluster(process, log);
  }

  /** The Java that is new enough, among those that lie beside the one that runs. */
  private static Path java() throws IOException {
    Path home = Path.of(System.getProperty("java.home")).toRealPath();
    try (Stream<Path> others = Files.list(Objects.requireNonNull(home.getParent()))) {
      return others
          .filter(each -> version(each).filter(number -> number >= JAVA).isPresent())
          .map(each -> each.resolve("bin").resolve("java"))
          .filter(Files::isExecutable)
          .findFirst()
          .orElseThrow(
              () ->
                  new IOException(
                      "there is no Java of version " + JAVA + " or newer beside " + home));
    }
  }

  private static Optional<Integer> version(Path home) {
    Path release = home.resolve("release");
    if (!Files.isRegularFile(release)) {
      return Optional.empty();
    }
    Properties properties = new Properties();
    try (InputStream file = Files.newInputStream(release)) {
      properties.load(file);
    } catch (IOException unread) {
      throw new IllegalStateException(unread);
    }
    String version = properties.getProperty("JAVA_VERSION", "").replace("\"", "");
    String first = List.of(version.split("\\.", -1)).get(0);
    return first.matches("[0-9]+") ? Optional.of(Integer.valueOf(first)) : Optional.empty();
  }

  /** What it says goes into its log, as all that a server says. */
  private String answer(String wanted) throws IOException {
    Instant end = Instant.now().plus(PATIENCE);
    while (process.isAlive() && Instant.now().isBefore(end)) {
      Optional<String> line =
          Files.readAllLines(log).stream().filter(each -> each.contains(wanted)).findFirst();
      if (line.isPresent()) {
        return line.get().substring(line.get().indexOf(wanted) + wanted.length());
      }
      LockSupport.parkNanos(Duration.ofMillis(200).toNanos());
    }
    throw new IOException(
        "the cluster did not say "
            + wanted
            + ": "
            + Files.readAllLines(log).stream()
                .filter(each -> each.contains("Exception"))
                .findFirst()
                .orElse("see " + log));
  }

  /** Where its tables are. */
  String url() {
    return url;
  }

  /** Ends one of its workers, and with it the rows that were there. */
  void killAWorker() throws IOException {
    OutputStream orders = process.getOutputStream();
    orders.write("kill\n".getBytes(StandardCharsets.UTF_8));
    orders.flush();
    answer("KILLED");
  }

  @Override
  public void close() {
    process.destroyForcibly();
  }
}
