package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Servers that take a connection and say nothing, freeze, or die half-way: Lantrel comes back. */
public class SilentServersTest {

  /** What a call may take besides its limit; a build machine may be busy. */
  private static final Duration BESIDES = Duration.ofSeconds(8);

  @DataProvider
  static Object[][] urls() {
    return new Object[][] {
      {"jdbc:postgresql://127.0.0.1:PORT/a"},
      {"jdbc:mariadb://127.0.0.1:PORT/a"},
      {"jdbc:h2:tcp://127.0.0.1:PORT/a"},
      {"jdbc:hsqldb:hsql://127.0.0.1:PORT/a"},
    };
  }

  @Test(dataProvider = "urls")
  public void aPortThatSaysNothing(String url) throws IOException {
    try (ServerSocket port = new ServerSocket(0, 50, InetAddress.getLoopbackAddress())) {
      long start = System.nanoTime();
      Answer answer = Answer.to("survey", "--db", url.replace("PORT", "" + port.getLocalPort()));
      assertThat(answer.exit()).isEqualTo(3);
      assertThat(answer.err().lines()).hasSize(1);
      assertThat(answer.err()).startsWith("lantrel: cannot connect to jdbc:");
      assertThat(Duration.ofNanos(System.nanoTime() - start))
          .isLessThan(Duration.ofSeconds(Access.CONNECT_SECONDS + 2).plus(BESIDES));
    }
  }

  @DataProvider
  static Object[][] ways() {
    return new Object[][] {
      {Engine.POSTGRESQL, Way.FREEZES}, {Engine.POSTGRESQL, Way.DIES},
      {Engine.MARIADB, Way.FREEZES}, {Engine.MARIADB, Way.DIES},
    };
  }

  enum Way {
    FREEZES,
    DIES
  }

  @Test(dataProvider = "ways")
  public void aServerThatGoesAway(Engine engine, Way way) throws IOException {
    Access access = RiverDatabases.access(engine);
    try (Relay relay = new Relay(URI.create(access.url().substring(5)).getPort())) {
      String url = access.url().replaceFirst(":\\d+/", ":" + relay.port() + "/");
      Access relayed =
          Access.to(url)
              .as(access.properties().getProperty("user"), null)
              .within(Duration.ofSeconds(2));
      try (Lantrel lantrel = Lantrel.connect(relayed)) {
        assertThat(lantrel.study("SELECT id FROM river").result().size()).isEqualTo(12);
        relay.stop(way);
        long start = System.nanoTime();
        try {
          lantrel.study("SELECT id FROM river").result();
          throw new AssertionError("there was no server any more");
        } catch (DatabaseException gone) {
          assertThat(gone.isFatal()).as(gone.getMessage()).isTrue();
        }
        assertThat(Duration.ofNanos(System.nanoTime() - start))
            .isLessThan(Duration.ofSeconds(2 + 2).plus(BESIDES));
      }
    }
  }

  @Test
  public void whatTakesTooLongLeavesTheRest() throws IOException {
    Path file = Scratch.file("many", ".sql");
    String pairs =
        "SELECT COUNT(*) FROM reading a, reading b, reading c, reading d, reading e, reading f,"
            + " reading g WHERE MOD(a.id * b.id + c.id * d.id + e.id * f.id + g.id, 97) = 98";
    Files.writeString(file, pairs + "; SELECT name FROM river");
    for (Engine engine : List.of(Engine.DUCKDB, Engine.POSTGRESQL)) {
      List<String> arguments = new ArrayList<>(List.of("check", "--timeout", "3", file.toString()));
      arguments.addAll(RiverDatabases.options(engine));
      long start = System.nanoTime();
      Answer answer = Answer.to(arguments.toArray(String[]::new));
      assertThat(Duration.ofNanos(System.nanoTime() - start))
          .isLessThan(Duration.ofSeconds(3 + 2).plus(BESIDES));
      assertThat(answer.out().replaceAll("\\s+", " "))
          .contains("was stopped after", "its share of the 3 seconds for this statement");
      assertThat(answer.out()).contains("1 statement checked, 1 not or only in part");
      assertThat(answer.exit()).isEqualTo(3);
    }
  }

  /** Passes on what is said between a program and a server, until it is told to stop. */
  private static final class Relay implements AutoCloseable {
    private final ServerSocket door;
    private final int target;
    private final List<Socket> sockets = new ArrayList<>();
    private volatile boolean frozen;

    Relay(int target) throws IOException {
      this.door = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
      this.target = target;
      start(this::accept);
    }

    int port() {
      return door.getLocalPort();
    }

    private static void start(Runnable work) {
      Thread thread = new Thread(work);
      thread.setDaemon(true);
      thread.start();
    }

    private void accept() {
      try {
        while (!door.isClosed()) {
          Socket here = door.accept();
          Socket there = new Socket(InetAddress.getLoopbackAddress(), target);
          synchronized (sockets) {
            sockets.addAll(List.of(here, there));
          }
          start(() -> copy(here, there));
          start(() -> copy(there, here));
        }
      } catch (IOException closed) {
        frozen = true;
      }
    }

    private void copy(Socket from, Socket to) {
      try {
        InputStream in = from.getInputStream();
        OutputStream out = to.getOutputStream();
        byte[] bytes = new byte[8_192];
        for (int n = in.read(bytes); n >= 0; n = in.read(bytes)) {
          if (!frozen) {
            out.write(bytes, 0, n);
            out.flush();
          }
        }
      } catch (IOException closed) {
        frozen = true;
      }
    }

    void stop(Way way) throws IOException {
      frozen = true;
      if (way == Way.DIES) {
        close();
      }
    }

    @Override
    public void close() throws IOException {
      door.close();
      synchronized (sockets) {
        for (Socket socket : sockets) {
          socket.close();
        }
      }
    }
  }
}
