package io.lantrel.draft;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import io.lantrel.Study;
import io.lantrel.check.Severity;
import io.lantrel.claim.Verdict;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Walks, branches and pairs over a world with two members in a circle, one whose teacher is not
 * there, a table called as a part of a draft is, and names in quotes.
 */
public class HierarchyDraftsTest {

  private static final Map<String, String> FILES =
      Map.of(
          "schema.sql",
          """
          CREATE TABLE "Part" ("Part No" VARCHAR(8) PRIMARY KEY, title VARCHAR(30));
          CREATE TABLE made_of (
            whole VARCHAR(8) NOT NULL REFERENCES "Part" ("Part No"),
            piece VARCHAR(8) NOT NULL REFERENCES "Part" ("Part No"),
            pieces INTEGER, PRIMARY KEY (whole, piece));
          CREATE TABLE walk (
            no INTEGER PRIMARY KEY, nick VARCHAR(20), teacher INTEGER REFERENCES walk (no));
          CREATE TABLE guild (code CHAR(2), town INTEGER, label VARCHAR(20),
            PRIMARY KEY (code, town));
          CREATE TABLE membership (
            member_no INTEGER REFERENCES walk (no), code CHAR(2), town INTEGER,
            PRIMARY KEY (member_no, code, town),
            FOREIGN KEY (code, town) REFERENCES guild (code, town));
          CREATE TABLE made (
            id INTEGER PRIMARY KEY, maker INTEGER REFERENCES walk (no), hours INTEGER);
          """,
          "Part.csv",
          "Part No,title\nA-1,cart\nB-2,wheel\nB-3,axle\nC-4,spoke\n",
          "made_of.csv",
          "whole,piece,pieces\nA-1,B-2,4\nA-1,B-3,2\nB-2,C-4,12\n",
          "walk.csv",
          "no,nick,teacher\n1,Ana,\n2,Bo,1\n3,Cy,1\n4,Di,2\n5,Ed,2\n6,Fi,7\n7,Gus,6\n8,Hal,99\n",
          "guild.csv",
          "code,town,label\nWR,1,wrights\nSM,1,smiths\nSM,2,smiths\n",
          "membership.csv",
          "member_no,code,town\n1,WR,1\n2,WR,1\n4,WR,1\n4,SM,2\n1,SM,2\n3,SM,1\n",
          "made.csv",
          "id,maker,hours\n1,1,10\n2,2,3\n3,2,4\n4,4,1\n5,,2\n6,6,2\n");

  private final Lantrel lantrel = Lantrel.open(folder());

  private static Path folder() {
    try {
      Path folder = Scratch.folder("guild");
      for (Map.Entry<String, String> file : FILES.entrySet()) {
        Files.writeString(folder.resolve(file.getKey()), file.getValue());
      }
      return folder;
    } catch (IOException failed) {
      throw new UncheckedIOException(failed);
    }
  }

  @AfterClass
  public void close() {
    lantrel.close();
  }

  @DataProvider
  static Object[][] wishes() {
    return new Object[][] {
      // Bo is below Ana, and both are starts: everybody comes once, with the least level.
      {
        Wish.show("walk.nick", "count of made").below("walk", "nick IN ('Ana', 'Bo')"),
        "Bo,2,1 Cy,0,1 Di,1,1 Ed,0,1"
      },
      {Wish.show("walk.nick", "teacher.nick").below("walk", "no = 6"), "Gus,Fi,1"},
      {Wish.show("walk.nick").below("walk").orderBy("walk.nick desc"), "Ed,2 Di,2 Cy,1 Bo,1 Ana,0"},
      {Wish.show("walk.nick").below("walk").without("made"), "Cy,1 Ed,2"},
      {Wish.show("walk.nick").above("walk", "nick = 'Di'").where("no > 1"), "Bo,1"},
      {Wish.show("made.id", "walk.nick").below("walk", "nick = 'Ana'"), "2,Bo 3,Bo 4,Di"},
      {Wish.show("count of made").below("walk", "nick = 'Ana'"), "3"},
      {Wish.show("made.id").keepEvery("made").where("made.id < 3"), "1 2"},
      {
        Wish.show("walk.nick", "sum of made.hours", "count of walk", "greatest made.hours")
            .overBranchesOf("walk"),
        "Ana,18,5,10 Bo,8,3,4 Cy,NULL,1,NULL Di,1,1,1 Ed,NULL,1,NULL Fi,2,2,2 Gus,2,2,2"
            + " Hal,NULL,1,NULL"
      },
      {
        Wish.show("walk.nick", "count of different guild.town")
            .overBranchesOf("walk")
            .where("walk.no < 3"),
        "Ana,2 Bo,2"
      },
      {
        Wish.show("walk.nick", "count of made").overBranchesOf("walk").below("walk", "no = 1"),
        "Bo,3,1 Cy,0,1 Di,1,2 Ed,0,2"
      },
      {Wish.show("walk.nick", "other.nick").pairsOf("walk", "guild"), "Ana,Bo Ana,Di Bo,Di"},
      {
        Wish.show("walk.nick", "other.nick", "guild.label", "guild.town").pairsOf("walk", "guild"),
        "Ana,Bo,wrights,1 Ana,Di,smiths,2 Ana,Di,wrights,1 Bo,Di,wrights,1"
      },
      {
        Wish.show("walk.nick", "other.nick").pairsOf("walk", "guild").where("guild.town = 2"),
        "Ana,Di"
      },
      {Wish.show("Part.title", "other.title").pairsOf("Part", "whole"), "wheel,axle"},
      {Wish.show("walk.nick", "other.nick").pairsOf("walk", "teacher"), "Bo,Cy Di,Ed"},
    };
  }

  @Test(dataProvider = "wishes")
  public void givesTheRows(Wish wish, String expected) {
    Draft draft = lantrel.drafts(wish).get(0);
    Study study = lantrel.study(draft.sql());
    assertThat(study.inspection().refusal()).as(draft.sql()).isEmpty();
    assertThat(study.findings())
        .as(draft.sql())
        .noneMatch(each -> each.severity() != Severity.NOTE);
    List<String> rows =
        study.result().rows().stream()
            .map(row -> String.join(",", row.stream().map(HierarchyDraftsTest::text).toList()))
            .toList();
    if (wish.order().isEmpty()) {
      rows = rows.stream().sorted().toList();
    }
    assertThat(String.join(" ", rows)).as(draft.sql()).isEqualTo(expected);
    if (!draft.claims().isEmpty() && wish.walk().filter(each -> each.start().isEmpty()).isEmpty()) {
      study.verify(draft.claims().toArray(String[]::new)).assertMet();
    }
  }

  private static String text(@Nullable Object value) {
    return value == null ? "NULL" : value.toString();
  }

  @Test
  public void wholeTreesTellWhomNoRootReaches() {
    Draft draft = lantrel.drafts(Wish.show("walk.nick").below("walk")).get(0);
    assertThat(draft.claims()).hasSize(2);
    assertThat(lantrel.study(draft.sql()).verify(draft.claims().toArray(String[]::new)).claims())
        .anySatisfy(
            each -> {
              assertThat(each.verdict()).isEqualTo(Verdict.BROKEN);
              assertThat(each.rows().orElseThrow().rows().toString())
                  .isEqualTo("[[6, Fi], [7, Gus], [8, Hal]]");
            });
  }

  /** A role that is shown alone belongs to the rows that a condition or a walk is about. */
  @Test
  public void aRoleStandsBesideTheRowsThatHaveIt() {
    Wish role = Wish.show("teacher.nick");
    for (Wish wish :
        List.of(
            role.where("walk.no < 5"),
            role.below("walk", "nick = 'Ana'"),
            role.below("walk", "nick = 'Ana'").where("walk.no < 5"))) {
      Draft draft = lantrel.drafts(wish).get(0);
      assertThat(draft.sql()).contains("LEFT JOIN walk teacher ON teacher.no = w.teacher");
      assertThat(draft.sql().contains("JOIN walk w ON w.no = below.no"))
          .isEqualTo(wish.walk().isPresent());
      boolean both = wish.walk().isPresent() && !wish.conditions().isEmpty();
      assertThat(lantrel.study(draft.sql()).result().size()).isEqualTo(both ? 3 : 4);
    }
  }

  @DataProvider
  static Object[][] refusals() {
    return new Object[][] {
      {
        Wish.show("Part.title", "other.title").pairsOf("Part", "Part"),
        "Part meets Part in several ways: "
      },
      {Wish.show("guild.label").below("guild", "town = 1"), "guild does not refer to itself"},
      {Wish.show("walk.nick").overBranchesOf("walk"), "branches of walk are for figures"},
      {Wish.show("count of walk").overBranchesOf("walk"), "branches of walk are for figures"},
      {
        Wish.show("guild.label", "count of guild").below("walk", "nick = 'Ana'"),
        "a guild may have several rows of walk, so figures for each guild would count by what"
      },
      {
        Wish.show("guild.label", "other.label").pairsOf("guild", "walk").where("teacher.no > 1"), ""
      },
    };
  }

  @Test(dataProvider = "refusals")
  public void refusesInASentence(Wish wish, String words) {
    assertThatThrownBy(() -> lantrel.drafts(wish))
        .isInstanceOf(WishException.class)
        .hasMessageStartingWith(words);
  }
}
