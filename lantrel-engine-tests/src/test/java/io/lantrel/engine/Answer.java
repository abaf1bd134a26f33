package io.lantrel.engine;

import io.lantrel.cli.Main;
import java.io.PrintWriter;
import java.io.StringWriter;

/** What the command line answers to a call. */
record Answer(int exit, String out, String err) {

  static Answer to(String... arguments) {
    StringWriter out = new StringWriter();
    StringWriter err = new StringWriter();
    int exit = Main.run(new PrintWriter(out), new PrintWriter(err), arguments);
    return new Answer(exit, out.toString(), err.toString());
  }
}
