package io.lantrel.examples;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import org.testng.annotations.Test;

/** The examples run, and show what they promise. */
public class ExamplesTest {

  @Test
  public void studiesOneQuery() throws IOException {
    PrintStream before = System.out;
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    System.setOut(new PrintStream(bytes, true, StandardCharsets.UTF_8));
    try {
      StudyOneQuery.main(new String[0]);
    } finally {
      System.setOut(before);
    }
    assertThat(bytes.toString(StandardCharsets.UTF_8))
        .containsSubsequence(
            "outer-join-cancelled: ",
            "LEFT JOIN warden k ON k.id = s.keeper_id AND k.family_name <> 'Harrow'",
            "= after",
            "Tolliver");
  }
}
