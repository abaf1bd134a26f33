package io.lantrel.draft;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import io.lantrel.Study;
import io.lantrel.check.Finding;
import io.lantrel.check.Kind;
import java.util.List;
import java.util.Map;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Tables that go by what they are to others: the part of a whole, the teacher of a maker; and what
 * every row has, which is joined so that nothing is lost.
 */
public class RolesInDraftsTest {

  private static final String SCHEMA =
      """
      CREATE TABLE smith (id INTEGER PRIMARY KEY, name VARCHAR(20) NOT NULL,
        taught_by INTEGER REFERENCES smith (id));
      CREATE TABLE tool (id INTEGER PRIMARY KEY, name VARCHAR(20) NOT NULL,
        maker_id INTEGER NOT NULL REFERENCES smith (id), keeper_id INTEGER REFERENCES smith (id));
      CREATE TABLE piece (whole_id INTEGER NOT NULL REFERENCES tool (id),
        part_id INTEGER NOT NULL REFERENCES tool (id), pieces INTEGER NOT NULL,
        PRIMARY KEY (whole_id, part_id));
      CREATE TABLE repair (id INTEGER PRIMARY KEY, tool_id INTEGER NOT NULL REFERENCES tool (id),
        hours INTEGER);
      CREATE TABLE guild (id INTEGER PRIMARY KEY, name VARCHAR(20) NOT NULL, head_id INTEGER);
      CREATE TABLE member (id INTEGER PRIMARY KEY, name VARCHAR(20) NOT NULL,
        lodge_id INTEGER REFERENCES guild (id));
      ALTER TABLE guild ADD FOREIGN KEY (head_id) REFERENCES member (id);
      """;

  // One repair is of a tool that is not there.
  private static final Map<String, String> FILES =
      Map.of(
          "schema.sql", SCHEMA,
          "smith.csv", "id,name,taught_by\n1,Ada,\n2,Bo,1\n3,Cy,1\n",
          "tool.csv",
              "id,name,maker_id,keeper_id\n1,Plough,2,3\n2,Share,1,\n3,Bolt,2,\n4,Handle,3,2\n",
          "piece.csv", "whole_id,part_id,pieces\n1,2,1\n1,3,8\n2,3,2\n",
          "guild.csv", "id,name,head_id\n1,Iron,2\n2,Tin,\n",
          "member.csv", "id,name,lodge_id\n1,Di,1\n2,Ed,1\n3,Flo,\n",
          "repair.csv", "id,tool_id,hours\n1,1,3\n2,1,\n3,9,4\n");

  private final Lantrel lantrel = Lantrel.open(Scratch.world("forge", FILES));

  @AfterClass
  void close() {
    lantrel.close();
  }

  private static final String PIECES = "FROM piece p";
  private static final String PART = "JOIN tool part ON part.id = p.part_id";
  private static final String MAKER = "JOIN smith maker ON maker.id = t.maker_id";

  /** A wish, the joins of its draft, and how many rows it has. */
  @DataProvider
  static Object[][] wishes() {
    return new Object[][] {
      // what is asked for by its role is reached by the other way
      {
        Wish.show("tool.name", "part.name"),
        List.of("FROM tool t", "LEFT JOIN piece p ON p.whole_id = t.id", "LEFT " + PART),
        5
      },
      {
        Wish.show("tool.name", "piece.pieces", "part.name"),
        List.of("FROM tool t", "LEFT JOIN piece p ON p.whole_id = t.id", "LEFT " + PART),
        5
      },
      {
        Wish.show("tool.name", "whole.name", "piece.pieces"),
        List.of(
            "FROM tool t",
            "LEFT JOIN piece p ON p.part_id = t.id",
            "LEFT JOIN tool whole ON whole.id = p.whole_id"),
        5
      },
      {
        Wish.show("tool.name", "count of part"),
        List.of("FROM tool t", "LEFT JOIN piece p ON p.whole_id = t.id", "LEFT " + PART),
        4
      },
      // two of one table: the rows of what names them
      {
        Wish.show("part.name", "tool.name"),
        List.of(PIECES, PART, "JOIN tool t ON t.id = p.whole_id"),
        3
      },
      {
        Wish.show("whole.name", "part.name"),
        List.of(PIECES, "JOIN tool whole ON whole.id = p.whole_id", PART),
        3
      },
      {
        Wish.show("maker.name", "keeper.name"),
        List.of("FROM tool t", MAKER, "LEFT JOIN smith keeper ON keeper.id = t.keeper_id"),
        4
      },
      // a role that is named by what is there in a role itself
      {
        Wish.show("tool.name", "maker.name", "taught_by.name"),
        List.of(
            "FROM tool t", MAKER, "LEFT JOIN smith taught_by ON taught_by.id = maker.taught_by"),
        4
      },
      {
        Wish.show("taught_by.name", "maker.name"),
        List.of(
            "FROM tool t", MAKER, "LEFT JOIN smith taught_by ON taught_by.id = maker.taught_by"),
        4
      },
      {
        Wish.show("maker.name", "taught_by.name", "count of repair"),
        List.of(
            "FROM tool t",
            MAKER,
            "LEFT JOIN smith taught_by ON taught_by.id = maker.taught_by",
            "LEFT JOIN repair r ON r.tool_id = t.id"),
        4
      },
      // asked of in a condition alone
      {
        Wish.show("tool.name", "keeper.name").where("taught_by.name = 'Ada'"),
        List.of(
            "FROM tool t",
            "JOIN smith keeper ON keeper.id = t.keeper_id",
            "JOIN smith taught_by ON taught_by.id = keeper.taught_by"),
        2
      },
      // two that name each other
      {
        Wish.show("head.name", "lodge.name"),
        List.of("FROM member head", "LEFT JOIN guild lodge ON lodge.id = head.lodge_id"),
        3
      },
      {
        Wish.show("lodge.name", "head.name"),
        List.of("FROM guild lodge", "LEFT JOIN member head ON head.id = lodge.head_id"),
        2
      },
      // promised, but one row breaks it; and behind what may be missing
      {
        Wish.show("repair.hours", "tool.name"),
        List.of("FROM repair r", "LEFT JOIN tool t ON t.id = r.tool_id"),
        3
      },
      {
        Wish.show("repair.hours", "tool.name", "maker.name"),
        List.of("FROM repair r", "LEFT JOIN tool t ON t.id = r.tool_id", "LEFT " + MAKER),
        3
      },
      {
        Wish.show("tool.name").continuing("SELECT r.hours FROM repair r"),
        List.of("FROM repair r LEFT JOIN tool t ON t.id = r.tool_id"),
        3
      },
      {
        Wish.show("maker.name").continuing("SELECT t.name FROM tool t"),
        List.of("FROM tool t " + MAKER),
        4
      },
      // a condition on what every row has does not make an inner join of the rest
      {
        Wish.show("tool.name", "maker.name", "count of repair").where("repair.hours > 3"),
        List.of("FROM tool t", MAKER, "LEFT JOIN repair r ON r.tool_id = t.id AND r.hours > 3"),
        4
      },
    };
  }

  @Test(dataProvider = "wishes")
  public void isJoinedByWhatNamesIt(Wish wish, List<String> joins, int rows) {
    List<Draft> drafts = lantrel.drafts(wish);
    Draft draft = drafts.get(0);
    List<String> from =
        draft.sql().lines().map(String::strip).filter(each -> each.contains(" ON ")).toList();
    String first = joins.get(0);
    assertThat(draft.sql()).contains(first);
    if (!first.contains(" ON ")) {
      assertThat(from).as(draft.sql()).isEqualTo(joins.subList(1, joins.size()));
    }
    Study study = lantrel.study(draft.sql());
    assertThat(study.result().size()).as(draft.sql()).isEqualTo(rows);
    if (wish.query().isEmpty()) {
      study.verify(draft.claims().toArray(String[]::new)).assertMet();
    }
    // What Lantrel writes it does not criticise: each row that is joined so has one, and is named.
    assertThat(study.findings())
        .extracting(Finding::kind)
        .doesNotContain(Kind.NEEDLESS_OUTER_JOIN, Kind.ROWS_WITHOUT_PARTNER);
  }

  @Test
  public void whatEveryRowHasIsSaid() {
    assertThat(lantrel.drafts(Wish.show("tool.name", "maker.name")).get(0).reasons())
        .containsExactly(
            "JOIN maker: the smith that a tool names as maker (tool.maker_id → smith.id); every tool"
                + " names one");
    assertThat(lantrel.drafts(Wish.show("repair.hours", "tool.name")).get(0).reasons())
        .containsExactly(
            "LEFT JOIN tool: the tool that a repair names (repair.tool_id → tool.id); a repair"
                + " without one is kept");
  }

  @DataProvider
  static Object[][] refused() {
    return new Object[][] {
      {
        Wish.show("part.name", "count of tool"),
        "tool is called part already; use one of the two names"
      },
      {
        Wish.show("part.name", "whole.name", "tool.name"),
        "the tool of a piece is called part already (piece.part_id → tool.id); use one of the two"
            + " names"
      },
      {
        Wish.show("tool.name", "tool.makr.name"),
        "there is no table and no role called tool.makr; close to it: maker"
      },
      {
        Wish.show("tool.name", "owner.name"),
        "there is no table and no role called owner; there are the tables smith, tool, piece,"
            + " repair, guild, member, and the roles taught_by, maker, keeper, whole, part, head,"
            + " lodge"
      },
    };
  }

  @Test(dataProvider = "refused")
  public void whatCannotBeMeantIsSaid(Wish wish, String sentence) {
    assertThatThrownBy(() -> lantrel.drafts(wish))
        .isInstanceOf(WishException.class)
        .hasMessage(sentence);
  }
}
