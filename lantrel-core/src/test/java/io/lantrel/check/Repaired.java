package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;

/** Queries after their repairs. */
final class Repaired {

  private Repaired() {}

  /** Of each repair that is offered: its finding is gone, and the rows are as many as was said. */
  static void keepsItsWord(String sql, Lantrel lantrel) {
    for (Finding finding : lantrel.study(sql).findings()) {
      if (finding.repair().isPresent()) {
        Repair repair = finding.repair().get();
        Study repaired = lantrel.study(repair.sql());
        assertThat(repaired.findings())
            .as(repair.sql())
            .noneMatch(
                each -> each.kind() == finding.kind() && each.message().equals(finding.message()));
        repair
            .rowsAfter()
            .ifPresent(rows -> assertThat(repaired.result().size()).isEqualTo((int) rows));
      }
    }
  }
}
