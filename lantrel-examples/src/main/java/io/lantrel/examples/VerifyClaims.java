package io.lantrel.examples;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.claim.CheckedClaim;
import io.lantrel.claim.Verification;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** Verifies what is claimed of a query, and lets Lantrel suggest what could be. */
public final class VerifyClaims {

  private VerifyClaims() {}

  /** Runs the example; it takes no arguments. */
  public static void main(String[] args) throws IOException {
    Path folder = RiverWatch.copyTo(Files.createTempDirectory("river-watch"));
    try (Lantrel lantrel = Lantrel.open(folder)) {
      Study readings = lantrel.study(RiverWatch.query("readings.sql"));
      Verification found = readings.verify("no null in name");
      for (CheckedClaim claim : found.claims()) {
        System.out.println(claim.verdict() + ": " + claim.claim().text() + "; " + claim.reason());
      }

      Study keepers =
          lantrel.study(
              "SELECT s.name, w.given_name FROM station s JOIN warden w ON w.id = s.keeper_id");
      for (CheckedClaim claim : keepers.suggestedClaims()) {
        System.out.println("-- claim: " + claim.claim().text());
      }
    }
  }
}
