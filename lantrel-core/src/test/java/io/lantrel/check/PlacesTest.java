package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Study;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.testng.annotations.AfterClass;
import org.testng.annotations.Test;

/**
 * The cases as a part of another query, each at another place: what is wrong is found wherever it
 * stands, and what is right has no warning there.
 */
public class PlacesTest {

  private static final List<String> PLACES =
      List.of(
          "(%1$s) UNION ALL (%1$s)",
          "SELECT o1.id, (SELECT COUNT(*) FROM (%s) AS part) AS n FROM river AS o1",
          "SELECT o1.id FROM river AS o1"
              + " WHERE EXISTS (SELECT 1 FROM (%s) AS part HAVING COUNT(*) > -o1.id)",
          "SELECT o1.id FROM river AS o1 WHERE o1.id >= ALL (SELECT -COUNT(*) FROM (%s) AS part)",
          "SELECT o1.id, part.n FROM river AS o1"
              + " LEFT JOIN LATERAL (SELECT COUNT(*) + o1.id AS n FROM (%s) AS part) AS part ON TRUE",
          "SELECT o1.id, COUNT(*) AS n FROM river AS o1 GROUP BY o1.id"
              + " HAVING COUNT(*) > (SELECT -COUNT(*) FROM (%s) AS part)",
          "SELECT o1.id, o2.name FROM river AS o1 LEFT JOIN river AS o2"
              + " ON o2.id = o1.id AND o2.id > (SELECT -COUNT(*) FROM (%s) AS part)",
          "WITH RECURSIVE steps AS (SELECT 1 + COUNT(*) AS n FROM (%s) AS part"
              + " UNION ALL SELECT n - 1 FROM steps WHERE n > 0) SELECT COUNT(*) AS n FROM steps");

  /**
   * What is said of a result as a whole, of values that are not used outside, of rows that nobody
   * counts, and of rows in an order that a part does not have.
   */
  private static final Set<String> OF_RESULTS =
      Set.of("repeated-label", "average-of-averages", "never-a-row", "union-removes-rows");

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());

  @AfterClass
  void close() {
    lantrel.close();
  }

  @Test
  public void aFaultIsFoundWhereverItStands() {
    List<String> missed = new ArrayList<>();
    List<Case> cases = Case.faulty();
    for (int i = 0; i < cases.size(); i++) {
      Case faulty = cases.get(i);
      if (!OF_RESULTS.contains(faulty.kind())) {
        Study study = lantrel.study(at(i, faulty));
        if (study.findings().stream().noneMatch(each -> each.kind().id().equals(faulty.kind()))) {
          missed.add(faulty.kind() + ": " + study.sql() + "\n  " + study.findings());
        }
      }
    }
    assertThat(missed).isEmpty();
  }

  @Test
  public void aCorrectQueryHasNoWarningWhereverItStands() {
    List<String> warned = new ArrayList<>();
    List<Case> cases = Case.innocent();
    for (int i = 0; i < cases.size(); i++) {
      Study study = lantrel.study(at(i, cases.get(i)));
      assertThat(study.isUnderstood()).as(study.sql()).isTrue();
      study.findings().stream()
          .filter(each -> each.severity() != Severity.NOTE)
          .forEach(each -> warned.add(study.sql() + "\n  " + each.kind() + each.message()));
    }
    assertThat(warned).isEmpty();
  }

  private static String at(int index, Case each) {
    return String.format(PLACES.get(index % PLACES.size()), each.sql());
  }
}
