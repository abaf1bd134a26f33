import io.trino.plugin.memory.MemoryPlugin;
import io.trino.server.testing.TestingTrinoServer;
import io.trino.testing.DistributedQueryRunner;
import io.trino.testing.TestingSession;
import java.io.BufferedReader;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * A coordinator and two workers with tables in memory, as a process of its own: it needs a newer
 * Java than the tests. Says where it is, then does what it is told: {@code kill} ends a worker, the
 * end of the input all of it.
 */
public class Cluster {
  public static void main(String[] arguments) throws Exception {
    DistributedQueryRunner cluster =
        DistributedQueryRunner.builder(
                TestingSession.testSessionBuilder().setCatalog("memory").setSchema("default").build())
            .setWorkerCount(2)
            // A recursion is planned so often over, and each part of a plan takes its time.
            .addExtraProperty("max-recursion-depth", "5")
            .build();
    cluster.installPlugin(new MemoryPlugin());
    cluster.createCatalog("memory", "memory", Map.of());
    System.out.println("READY " + cluster.getCoordinator().getBaseUrl().getAuthority());
    BufferedReader words = new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8));
    for (String word = words.readLine(); word != null; word = words.readLine()) {
      if (word.equals("kill")) {
        List<TestingTrinoServer> workers = new ArrayList<>(cluster.getServers());
        workers.removeIf(TestingTrinoServer::isCoordinator);
        workers.get(0).close();
        System.out.println("KILLED");
      }
    }
    System.exit(0);
  }
}
