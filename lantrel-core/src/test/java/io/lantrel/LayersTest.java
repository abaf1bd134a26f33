package io.lantrel;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.lang.ArchCondition;
import com.tngtech.archunit.lang.ConditionEvents;
import com.tngtech.archunit.lang.SimpleConditionEvent;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Dialect;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.assertj.core.api.Assertions;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A room imports only rooms below it. */
public class LayersTest {

  /** From the top down. Rooms of one line do not know each other. */
  private static final List<List<String>> ROOMS =
      List.of(
          List.of("io.lantrel"),
          List.of("io.lantrel.claim"),
          List.of(
              "io.lantrel.draft",
              "io.lantrel.rewrite",
              "io.lantrel.rows",
              "io.lantrel.sample",
              "io.lantrel.trace",
              "io.lantrel.hierarchy",
              "io.lantrel.compare"),
          List.of("io.lantrel.ledger", "io.lantrel.check", "io.lantrel.survey"),
          List.of("io.lantrel.portability"),
          List.of("io.lantrel.edit"),
          List.of("io.lantrel.probe"),
          List.of("io.lantrel.engine", "io.lantrel.resolve"),
          List.of("io.lantrel.catalog"),
          List.of("io.lantrel.sql"),
          List.of("io.lantrel.failure", "io.lantrel.words"));

  private static final JavaClasses CLASSES =
      new ClassFileImporter()
          .withImportOption(new ImportOption.DoNotIncludeTests())
          .importPackages("io.lantrel");

  /** The room of a package: the second level below io.lantrel belongs to the first. */
  private static String room(JavaClass type) {
    return List.of(type.getPackageName().split("\\.", -1)).stream()
        .limit(3)
        .collect(Collectors.joining("."));
  }

  private static int floor(String room) {
    for (int i = 0; i < ROOMS.size(); i++) {
      if (ROOMS.get(i).contains(room)) {
        return i;
      }
    }
    throw new AssertionError("a room that the list of rooms does not have: " + room);
  }

  @DataProvider
  static Object[][] types() {
    Assertions.assertThat(CLASSES).hasSizeGreaterThan(100);
    Function<JavaClass, Object[]> row = type -> new Object[] {type};
    return CLASSES.stream()
        .filter(type -> !type.getPackageName().endsWith(".grammar"))
        .map(row)
        .toArray(Object[][]::new);
  }

  @Test(dataProvider = "types")
  public void importsOnlyWhatIsBelow(JavaClass type) {
    String own = room(type);
    type.getDirectDependenciesFromSelf().stream()
        .map(dependency -> dependency.getTargetClass())
        .filter(target -> target.getPackageName().startsWith("io.lantrel"))
        .map(LayersTest::room)
        .filter(room -> !room.equals(own))
        .forEach(
            room ->
                Assertions.assertThat(floor(room))
                    .as("%s uses %s", type.getName(), room)
                    .isGreaterThan(floor(own)));
  }

  @Test
  public void onlyTheEngineKnowsJdbc() {
    noClasses()
        .that()
        .resideOutsideOfPackage("io.lantrel.engine")
        .and()
        .doNotHaveFullyQualifiedName("io.lantrel.Lantrel")
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage("java.sql..", "org.duckdb..")
        .check(CLASSES);
  }

  @Test
  public void nothingPrintsOrReadsTheSurroundings() {
    noClasses()
        .should()
        .accessField(System.class, "out")
        .orShould()
        .accessField(System.class, "err")
        .orShould()
        .callMethod(System.class, "getProperty", String.class)
        .orShould()
        .callMethod(System.class, "getenv", String.class)
        .orShould()
        .callMethod(System.class, "exit", int.class)
        .orShould()
        .callMethod(Throwable.class, "printStackTrace")
        .check(CLASSES);
  }

  @Test
  public void theGrammarStaysInItsRoom() {
    noClasses()
        .that()
        .resideOutsideOfPackages("io.lantrel.sql", "io.lantrel.sql.grammar")
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage("org.antlr..", "io.lantrel.sql.grammar")
        .check(CLASSES);
  }

  @Test
  public void roomsHaveNoCycles() {
    slices().matching("io.lantrel.(*)..").should().beFreeOfCycles().check(CLASSES);
  }

  @Test
  public void packagesHaveNoCycles() {
    slices().matching("io.lantrel.(**)").should().beFreeOfCycles().check(CLASSES);
  }

  /** ROLLUP and the like are one item of GROUP BY, and several groupings: a check wants each. */
  @Test
  public void checksAskForAllThatRowsAreGroupedBy() {
    noClasses()
        .that()
        .resideInAPackage("io.lantrel.check..")
        .should()
        .callMethod(QueryBlock.class, "grouping")
        .check(CLASSES);
  }

  /** A further product is a dialect with its rules: nobody below asks which one it is. */
  @Test
  public void onlyItsOwnRoomsKnowADialectByName() {
    noClasses()
        .that()
        .resideInAnyPackage(
            "io.lantrel.resolve..",
            "io.lantrel.probe..",
            "io.lantrel.edit..",
            "io.lantrel.check..",
            "io.lantrel.ledger..",
            "io.lantrel.survey..",
            "io.lantrel.draft..")
        .should(
            new ArchCondition<JavaClass>("name a dialect") {
              @Override
              public void check(JavaClass type, ConditionEvents events) {
                type.getFieldAccessesFromSelf().stream()
                    .filter(access -> access.getTargetOwner().isEquivalentTo(Dialect.class))
                    .filter(access -> access.getTarget().getRawType().isEquivalentTo(Dialect.class))
                    .forEach(
                        access ->
                            events.add(
                                SimpleConditionEvent.satisfied(type, access.getDescription())));
              }
            })
        .check(CLASSES);
  }
}
