package io.lantrel.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.lang.reflect.AnnotatedElement;
import java.util.Arrays;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import picocli.CommandLine;
import picocli.CommandLine.Model.CommandSpec;

/** The help of each command. */
public class HelpTest {

  @DataProvider
  static Object[][] commands() {
    return Arrays.stream(Main.class.getAnnotation(CommandLine.Command.class).subcommands())
        .map(each -> new Object[] {CommandSpec.forAnnotatedObject(each)})
        .toArray(Object[][]::new);
  }

  /** A percent sign that stands alone makes picocli complain, in the midst of the help. */
  @Test(dataProvider = "commands")
  public void canBePrinted(CommandSpec command) {
    List<String> texts =
        command.options().stream()
            .map(each -> ((AnnotatedElement) each.userObject()))
            .flatMap(
                each -> Arrays.stream(each.getAnnotation(CommandLine.Option.class).description()))
            .toList();
    assertThat(texts)
        .isNotEmpty()
        .allSatisfy(text -> assertThat(String.format(text)).endsWith("."));
  }

  @Test(dataProvider = "commands")
  public void beginsWithHowToCallIt(CommandSpec command) {
    Answer answer = Answer.to(command.name(), "--help");
    assertThat(answer.exit()).isZero();
    assertThat(answer.err()).isEmpty();
    assertThat(answer.out()).startsWith("Usage: lantrel " + command.name() + " [-h]");
    assertThat(answer.out()).doesNotContain("%%", "%n");
  }
}
