package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.cli.LedgerQuestion.Against;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.LedgerOfPart;
import io.lantrel.ledger.OtherJoin;
import io.lantrel.ledger.RowShare;
import io.lantrel.report.LedgerJson;
import io.lantrel.report.StudiedFile;
import io.lantrel.report.TextReport;
import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.function.BiConsumer;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Accounts for the rows of queries. */
@Command(
    name = "ledger",
    description = "Shows what each join and each clause of a query did to the rows, and why.")
final class LedgerCommand implements Callable<Integer> {

  @Spec private CommandSpec spec = CommandSpec.create();
  @Mixin private TablesOption tables = new TablesOption();
  @Mixin private ValuesOption values = new ValuesOption();
  @Mixin private Output output = new Output();

  @Mixin private LedgerQuestion question = new LedgerQuestion();

  @Parameters(
      arity = "1..*",
      paramLabel = "QUERY.sql",
      description = "Files with queries; - is standard input.")
  private List<String> files = List.of();

  @Override
  public Integer call() {
    question.naming();
    question.against();
    question.share();
    try (Lantrel lantrel = tables.openWithRows()) {
      List<StudiedFile> studied = QueryFiles.open(files, lantrel, values);
      return output.format == Format.json ? json(studied) : text(studied);
    }
  }

  private int json(List<StudiedFile> studied) {
    List<Map<String, Object>> answers = new ArrayList<>();
    EachStatement run = each(studied, (file, study) -> answers.add(json(file, study)));
    print(LedgerJson.ledgers(answers, run.failed()));
    return run.exit();
  }

  private Map<String, Object> json(StudiedFile file, Study study) {
    Optional<Against> against = question.against();
    if (against.isPresent()) {
      return LedgerJson.otherJoins(file, study, otherJoins(study, against.get()));
    }
    Optional<RowShare> share = question.share();
    if (share.isPresent()) {
      return LedgerJson.ledger(file, study, ledgerAbout(study, share.get()));
    }
    return question.without().isPresent()
        ? LedgerJson.without(file, study, study.without(question.without().getAsInt()))
        : LedgerJson.ledger(file, study, ledger(study));
  }

  private int text(List<StudiedFile> studied) {
    TextReport report = new TextReport(Output.style());
    return each(
            studied,
            (file, study) -> print(report.heading(file.name(), study) + text(report, study) + "\n"))
        .exit();
  }

  private String text(TextReport report, Study study) {
    Optional<Against> against = question.against();
    if (against.isPresent()) {
      return report.otherJoins(otherJoins(study, against.get()));
    }
    Optional<RowShare> share = question.share();
    if (share.isPresent()) {
      return report.ledger(ledgerAbout(study, share.get()));
    }
    return question.without().isPresent()
        ? report.without(study.without(question.without().getAsInt()))
        : report.ledger(ledger(study), question.naming());
  }

  private List<OtherJoin> otherJoins(Study study, Against against) {
    return study.otherJoins(against.kind(), against.step(), question.naming());
  }

  private Ledger ledger(Study study) {
    Ledger ledger = study.ledger(question.naming());
    requireStep(ledger);
    return ledger;
  }

  private LedgerOfPart ledgerAbout(Study study, RowShare share) {
    LedgerOfPart part = study.ledgerAbout(share, question.naming());
    requireStep(part.counted());
    return part;
  }

  private void requireStep(Ledger ledger) {
    int step = question.naming().step();
    int steps = ledger.entries().size();
    if (step > steps) {
      throw new ParameterException(
          spec.commandLine(), "there is no step " + step + " in this account: it has " + steps);
    }
  }

  private EachStatement each(List<StudiedFile> studied, BiConsumer<StudiedFile, Study> told) {
    return EachStatement.through(studied, spec.commandLine().getErr(), "accounted for", told);
  }

  private void print(String text) {
    PrintWriter out = spec.commandLine().getOut();
    out.print(text);
    out.flush();
  }
}
