package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.survey.ColumnValues;
import io.lantrel.survey.Survey;
import io.lantrel.survey.Survey.TableSurvey;
import io.lantrel.survey.SurveyWish;
import java.util.LinkedHashMap;
import java.util.Map;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** The values worth seeing are the same on each engine. */
public class SurveyValuesTest extends OnEveryEngine {

  /** Columns whose values are written alike everywhere. */
  @DataProvider
  static Object[][] columns() {
    return new Object[][] {
      {"station", "bank", "[S 4, R 3, W 3] rare [M 2]  …  0 0 0"},
      {"station", "capacity", "[6 3] rare [1 1, 2 1, 3 1] 1 … 14 0 0 0"},
      {"warden", "family_name", "[Harrow 2] rare [Fenwick 1, Merrow 1, Oake 1]  …  0 0 0"},
      {"species_group", "within_id", "[1 2] rare [4 1, 6 1] 1 … 6 0 0 0"},
      {"sighting", "species_id", "[1 3, 4 3, 6 3] rare [5 1, 7 1, 10 1] 1 … 10 0 0 0"},
    };
  }

  @Test(dataProvider = "columns")
  public void areTheSame(String table, String column, String expected) {
    Map<Engine, String> told = new LinkedHashMap<>();
    Map<Engine, String> wanted = new LinkedHashMap<>();
    all()
        .forEach(
            (engine, lantrel) -> {
              SurveyWish wish =
                  SurveyWish.all().only(each -> each.name().equalsIgnoreCase(table)).withValues();
              told.put(engine, words(lantrel.survey(wish, doing -> {}), column));
              wanted.put(engine, expected);
            });
    assertThat(told).isEqualTo(wanted);
  }

  private static String words(Survey survey, String column) {
    TableSurvey table = survey.tables().get(0);
    ColumnValues values =
        table.columns().stream()
            .filter(each -> each.column().name().equalsIgnoreCase(column))
            .findFirst()
            .orElseThrow()
            .values()
            .orElseThrow();
    return values.frequent().stream().map(each -> each.value() + " " + each.rows()).toList()
        + " rare "
        + values.rare().stream().map(each -> each.value() + " " + each.rows()).toList()
        + " "
        + values.least()
        + " … "
        + values.greatest()
        + " "
        + values.emptyTexts()
        + " "
        + values.blanksAtEnds()
        + " "
        + values.sameButForCase();
  }
}
