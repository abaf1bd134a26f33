package io.lantrel.cli;

import io.lantrel.check.Kind;
import io.lantrel.report.JsonReport;
import io.lantrel.report.KindPages;
import io.lantrel.sql.NearNames;
import java.io.PrintWriter;
import java.util.List;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Says what there is to be found. */
@Command(
    name = "kinds",
    description = "Lists the kinds of findings, or shows the page of one, with examples.")
final class KindsCommand implements Callable<Integer> {

  @Spec private CommandSpec spec = CommandSpec.create();
  @Mixin private Output output = new Output();

  @Parameters(arity = "0..1", paramLabel = "KIND", description = "A kind, as cross-product.")
  private @Nullable String name;

  @Override
  public Integer call() {
    PrintWriter out = spec.commandLine().getOut();
    List<Kind> kinds = name == null ? List.of(Kind.values()) : List.of(kind(name, spec));
    if (output.format == Format.json) {
      out.print(JsonReport.kinds(kinds));
    } else {
      out.print(name == null ? new KindPages(Output.style()).list() : KindPages.page(kinds.get(0)));
    }
    out.flush();
    return ExitCode.FINE;
  }

  /** The kind of that name; of another name it says which may be meant. */
  static Kind kind(String name, CommandSpec spec) {
    return Kind.of(name.strip())
        .orElseThrow(
            () -> {
              List<String> near = NearNames.of(name, Kind.ids());
              return new ParameterException(
                  spec.commandLine(),
                  "there is no kind "
                      + name
                      + (near.isEmpty()
                          ? "; lantrel kinds lists them"
                          : "; is " + near.get(0) + " meant?"));
            });
  }
}
