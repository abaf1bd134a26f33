package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Study;
import io.lantrel.check.Case;
import io.lantrel.check.Finding;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.Test;

/** The tables of faulty and of correct queries on every engine, with the same answers. */
public class FindingsTest extends OnEveryEngine {

  /** Of a hundred queries so many may be refused, since an engine has no such form. */
  private static final int REFUSED_PER_CENT = 12;

  private static boolean isTaken(Study study) {
    return study.isUnderstood() && study.inspection().refusal().isEmpty();
  }

  @Test(dataProvider = "engines")
  public void faultsAreFoundAtTheirPlaces(Engine engine) {
    List<String> missed = new ArrayList<>();
    List<Case> refused = new ArrayList<>();
    for (Case faulty : Case.faulty()) {
      Study study = at(engine).study(faulty.sql());
      boolean found = study.findings().stream().anyMatch(each -> isFound(each, faulty));
      if (!found && (!isTaken(study) || isOtherwise(faulty, engine))) {
        refused.add(faulty);
      } else if (!found) {
        missed.add(faulty + "\n  " + study.findings().stream().map(FindingsTest::words).toList());
      }
    }
    assertThat(missed).as("missed on %s", engine.id()).isEmpty();
    assertThat(refused.size() * 100 / Case.faulty().size())
        .as("refused on %s: %s", engine.id(), refused)
        .isLessThanOrEqualTo(REFUSED_PER_CENT);
  }

  /**
   * In MariaDB the bars are OR, and capitals are set aside. That a result is empty is told where it
   * is counted anyway, which a database of any size is not.
   */
  private static boolean isOtherwise(Case each, Engine engine) {
    return (engine == Engine.MARIADB
            && (each.sql().contains("||") || each.kind().equals("nearly-equal")))
        || (!engine.isEmbedded() && each.kind().startsWith("never-a-"));
  }

  private static boolean isFound(Finding finding, Case faulty) {
    return finding.kind().id().equals(faulty.kind())
        && finding.place().start() == faulty.start()
        && finding.place().end() == faulty.end();
  }

  private static String words(Finding finding) {
    return finding.kind().id() + " " + finding.place();
  }

  @Test(dataProvider = "engines")
  public void correctQueriesHaveNoWarning(Engine engine) {
    List<String> warned = new ArrayList<>();
    List<Case> refused = new ArrayList<>();
    for (Case innocent : Case.innocent()) {
      Study study = at(engine).study(innocent.sql());
      study.findings().stream()
          .filter(each -> each.severity() != Severity.NOTE && !isOtherwise(innocent, engine))
          // What the engine lacks is told where it refuses the query for it.
          .filter(each -> isTaken(study) || each.kind() != Kind.NOT_IN_ENGINE)
          .forEach(each -> warned.add(innocent.sql() + "\n  " + each.kind() + each.message()));
      if (!isTaken(study)) {
        refused.add(innocent);
      }
    }
    assertThat(warned).as("warned of on %s", engine.id()).isEmpty();
    assertThat(refused.size() * 100 / Case.innocent().size())
        .as("refused on %s: %s", engine.id(), refused)
        .isLessThanOrEqualTo(REFUSED_PER_CENT);
  }
}
