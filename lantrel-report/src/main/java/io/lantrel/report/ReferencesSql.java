package io.lantrel.report;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.sql.Dialect;
import io.lantrel.survey.Survey;
import io.lantrel.survey.Survey.ReferenceSurvey;
import io.lantrel.words.Words;
import java.util.List;
import java.util.stream.Collectors;

/** References that a survey found beside the declared ones, as statements for review. */
public final class ReferencesSql {

  private final Dialect dialect;

  /**
   * @param dialect how names are written
   */
  public ReferencesSql(Dialect dialect) {
    this.dialect = dialect;
  }

  /** Observed ones as statements, possible ones as comments. */
  public String write(Survey survey) {
    StringBuilder sql = new StringBuilder();
    sql.append("-- References that the schema does not declare, for review.\n");
    sql.append("-- What is true can be given to every command by --references.\n");
    int written = 0;
    for (ReferenceSurvey each : survey.references()) {
      if (each.reference().basis() != Basis.DECLARED) {
        sql.append('\n').append(statement(each));
        written++;
      }
    }
    return written == 0 ? sql + "\n-- None were found.\n" : sql.toString();
  }

  private String statement(ReferenceSurvey found) {
    Reference reference = found.reference();
    boolean observed = reference.basis() == Basis.OBSERVED;
    String statement =
        "ALTER TABLE "
            + name(reference.from())
            + " ADD FOREIGN KEY ("
            + columns(reference.fromColumns())
            + ") REFERENCES "
            + name(reference.to())
            + " ("
            + columns(reference.toColumns())
            + ");";
    String figures =
        Words.number(found.valuesFound()) + " of " + Words.count(found.values(), "value");
    return "-- "
        + (observed ? "" : "only possible: ")
        + figures
        + (found.valuesFound() == 1 ? " names a row" : " name a row")
        + "\n"
        + (observed ? statement : "-- " + asComment(statement))
        + "\n";
  }

  /** A name may hold line breaks, behind which a comment would be over. */
  private static String asComment(String statement) {
    return statement.replaceAll("\\R", "\n-- ");
  }

  private String name(Table table) {
    return (table.schema().isEmpty() ? "" : dialect.write(table.schema()) + ".")
        + dialect.write(table.name());
  }

  private String columns(List<String> names) {
    return names.stream().map(dialect::write).collect(Collectors.joining(", "));
  }
}
