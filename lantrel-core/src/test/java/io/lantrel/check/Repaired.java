package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;

/** Queries after their repairs. */
final class Repaired {

  private Repaired() {}

  static boolean isOf(Finding finding, String kind) {
    return finding.severity() == Severity.WARNING && finding.kind().id().equals(kind);
  }

  /** The first warning of a kind that a query has. */
  static Finding warning(String sql, String kind, Lantrel lantrel) {
    return lantrel.study(sql).findings().stream()
        .filter(each -> isOf(each, kind))
        .findFirst()
        .orElseThrow(() -> new AssertionError("no " + kind + " in " + sql));
  }

  /**
   * That the repair of a query changes only what is marked, and that the warning is gone by it.
   *
   * @param marked the query, with the part in «»
   * @param instead what stands there afterwards
   */
  static void changesAPartAlone(String marked, String instead, String kind, Lantrel lantrel) {
    int from = marked.indexOf('«');
    int to = marked.indexOf('»');
    String right = marked.substring(0, from) + instead + marked.substring(to + 1);
    Finding finding = warning(marked.replaceAll("[«»]", ""), kind, lantrel);
    assertThat(finding.repair().map(Repair::sql)).as(finding.message()).hasValue(right);
    assertThat(lantrel.study(right).findings()).noneMatch(each -> isOf(each, kind));
  }

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
