package io.lantrel.engine;

import io.lantrel.engine.harmless.Permission;
import java.nio.file.Path;
import java.time.Duration;
import java.util.LinkedHashSet;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What the study of a statement may cost, and what it may use.
 *
 * @param time how long the database may work for the whole study of one statement: the query itself
 *     and all questions about it
 * @param memory how many bytes an engine that runs within the program may use for its work; what
 *     does not fit is spilled to disk or refused. DuckDB and SQLite hold it; H2 and HSQLDB live in
 *     Java's own memory
 * @param spill the folder in which an engine puts what does not fit into memory; null for a
 *     temporary folder of its own
 * @param allowed names of functions that are run although Lantrel does not know that they only
 *     compute
 */
public record Limits(Duration time, long memory, @Nullable Path spill, Set<String> allowed) {

  /** How the sentence ends that refuses a function; its name follows. See {@link #allowing}. */
  public static final String ALLOW = Permission.ALLOW;

  private static final long LEAST_MEMORY = 32L << 20;

  /**
   * @throws IllegalArgumentException if the time is less than a second or the memory less than 32
   *     MiB
   */
  public Limits {
    if (time.compareTo(Duration.ofSeconds(1)) < 0) {
      throw new IllegalArgumentException("a time limit is at least a second");
    }
    if (memory < LEAST_MEMORY) {
      throw new IllegalArgumentException("an engine needs at least 32 MiB");
    }
    allowed = Set.copyOf(allowed);
  }

  /** A minute, as much memory as Java may use, and no function besides those that are known. */
  public static Limits usual() {
    long memory = Math.max(LEAST_MEMORY, Runtime.getRuntime().maxMemory());
    return new Limits(Duration.ofSeconds(60), memory, null, Set.of());
  }

  /**
   * With another time limit.
   *
   * @throws IllegalArgumentException if it is less than a second
   */
  public Limits within(Duration other) {
    return new Limits(other, memory, spill, allowed);
  }

  /**
   * With another limit of memory, in bytes.
   *
   * @throws IllegalArgumentException if it is less than 32 MiB
   */
  public Limits withMemory(long bytes) {
    return new Limits(time, bytes, spill, allowed);
  }

  /** With a folder in which an engine may put what does not fit into memory. */
  public Limits spillingInto(Path folder) {
    return new Limits(time, memory, folder, allowed);
  }

  /** With one more function that is known to change nothing. */
  public Limits allowing(String function) {
    Set<String> more = new LinkedHashSet<>(allowed);
    more.add(function);
    return new Limits(time, memory, spill, more);
  }
}
