package io.lantrel.cli;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.List;

/** What the command line answers to a call. */
record Answer(int exit, String out, String err) {

  static Answer to(String... arguments) {
    StringWriter out = new StringWriter();
    StringWriter err = new StringWriter();
    int exit = Main.run(new PrintWriter(out), new PrintWriter(err), arguments);
    return new Answer(exit, out.toString(), err.toString());
  }

  static Answer to(List<String> arguments) {
    return to(arguments.toArray(String[]::new));
  }
}
