package io.lantrel.cli;

import io.lantrel.LargeStack;
import io.lantrel.draft.WishException;
import io.lantrel.failure.LantrelException;
import io.lantrel.report.Visible;
import io.lantrel.sql.NearNames;
import java.io.FileDescriptor;
import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.UnmatchedArgumentException;

/** Where the command line starts. */
@Command(
    name = "lantrel",
    description = "You know that the join is right, and why.",
    synopsisSubcommandLabel = "COMMAND",
    subcommands = {
      DemoCommand.class,
      SurveyCommand.class,
      DraftCommand.class,
      RewriteCommand.class,
      CheckCommand.class,
      LedgerCommand.class,
      RowsCommand.class,
      SampleCommand.class,
      TraceCommand.class,
      HierarchyCommand.class,
      CompareCommand.class,
      KindsCommand.class,
      SuggestCommand.class,
      VerifyCommand.class
    },
    footer = {
      "",
      "Exit codes: 0 nothing found at or above --fail-on; 1 findings; 2 called wrongly;",
      "3 the data or the database did not let it run."
    })
public final class Main implements Runnable {

  @CommandLine.Option(
      names = {"-h", "--help"},
      usageHelp = true,
      scope = CommandLine.ScopeType.INHERIT,
      description = "Shows this help.")
  @SuppressWarnings("unused") // picocli reads it
  private boolean help;

  @CommandLine.Spec
  private CommandLine.Model.CommandSpec spec = CommandLine.Model.CommandSpec.create();

  private Main() {}

  /** Runs a command and ends the process with its exit code. */
  public static void main(String[] args) {
    HeadStart.begin(args);
    StandardStream out = new StandardStream(FileDescriptor.out);
    StandardStream err = new StandardStream(FileDescriptor.err);
    int exit = run(out.writer(), err.writer(), args);
    System.exit(out.finish(err) ? exit : ExitCode.COULD_NOT_RUN);
  }

  /**
   * Runs a command.
   *
   * @param out where the answer goes
   * @param err where complaints go
   * @return the exit code
   */
  public static int run(PrintWriter out, PrintWriter err, String... args) {
    PrintWriter answers = new PrintWriter(Visible.writer(out));
    PrintWriter complaints = new PrintWriter(Visible.writer(err), true);
    int exit = orSentence(() -> execute(answers, complaints, args), complaints);
    answers.flush();
    complaints.flush();
    return exit;
  }

  /** Whatever happens is told in a sentence. */
  private static int orSentence(Supplier<Integer> command, PrintWriter err) {
    try {
      return LargeStack.call(command);
    } catch (StackOverflowError deep) {
      err.println("lantrel: this is nested too deep to be worked on");
    } catch (OutOfMemoryError large) {
      err.println("lantrel: this needs more memory than Java may use here");
    } catch (RuntimeException | Error fault) {
      err.println(
          "lantrel: this is a fault of Lantrel itself, please report it: "
              + Visible.line(fault.toString()));
    }
    return ExitCode.COULD_NOT_RUN;
  }

  private static int execute(PrintWriter out, PrintWriter err, String... args) {
    return new CommandLine(new Main())
        .setOut(out)
        .setErr(err)
        .setColorScheme(CommandLine.Help.defaultColorScheme(CommandLine.Help.Ansi.OFF))
        .setExpandAtFiles(false)
        .setCaseInsensitiveEnumValuesAllowed(true)
        .setParameterExceptionHandler(Main::calledWrongly)
        .setExecutionExceptionHandler(Main::couldNotRun)
        .execute(args);
  }

  @Override
  public void run() {
    spec.commandLine().usage(spec.commandLine().getOut());
  }

  private static int calledWrongly(ParameterException wrong, String[] args) {
    PrintWriter err = wrong.getCommandLine().getErr();
    // A misspelt option also leaves the right one missing; the misspelling is what to tell.
    List<String> unknown = wrong.getCommandLine().getUnmatchedArguments();
    if (!unknown.isEmpty() && !(wrong instanceof UnmatchedArgumentException)) {
      return calledWrongly(new UnmatchedArgumentException(wrong.getCommandLine(), unknown), args);
    }
    List<String> near =
        unknown.isEmpty() ? List.of() : near(unknown.get(0), wrong.getCommandLine());
    String command = wrong.getCommandLine().getCommandSpec().qualifiedName();
    err.println(
        "lantrel: "
            + Visible.line(
                String.valueOf(wrong.getMessage())
                    .replace("is not an int", "is not a whole number"))
            + (near.isEmpty() ? "" : "; close to it: " + String.join(", ", near)));
    err.println("Try: " + command + " --help");
    return ExitCode.USAGE;
  }

  private static List<String> near(String word, CommandLine command) {
    List<String> known = new ArrayList<>(command.getSubcommands().keySet());
    known.addAll(command.getCommandSpec().optionsMap().keySet());
    return NearNames.of(word, known);
  }

  private static int couldNotRun(
      Exception failure, CommandLine command, CommandLine.ParseResult parsed) {
    if (!(failure instanceof LantrelException)) {
      command
          .getErr()
          .println(
              "lantrel: this is a fault of Lantrel itself, please report it: "
                  + Visible.line(failure.toString()));
      return ExitCode.COULD_NOT_RUN;
    }
    command.getErr().println("lantrel: " + Visible.line(String.valueOf(failure.getMessage())));
    AllowHint.after(failure.getMessage(), command.getErr());
    return failure instanceof WishException ? ExitCode.USAGE : ExitCode.COULD_NOT_RUN;
  }
}
