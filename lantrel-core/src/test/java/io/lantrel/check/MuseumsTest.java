package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A world of museums that no example uses: what is lent, shown, insured, inspected and sold. */
public class MuseumsTest {

  private static final List<String> WORLD =
      List.of(
          "CREATE TABLE museum (id INTEGER PRIMARY KEY, name VARCHAR(40) NOT NULL, town "
              + "VARCHAR(30) NOT NULL, parent_id INTEGER REFERENCES museum (id));",
          "CREATE TABLE curator (id INTEGER PRIMARY KEY, first_name VARCHAR(30) NOT NULL, "
              + "last_name VARCHAR(30) NOT NULL, museum_id INTEGER NOT NULL REFERENCES museum (id), "
              + "boss_id INTEGER REFERENCES curator (id), hired DATE NOT NULL, left_on DATE, salary "
              + "DECIMAL(8,2) NOT NULL);",
          "CREATE TABLE object (id INTEGER PRIMARY KEY, title VARCHAR(60) NOT NULL, category "
              + "VARCHAR(10) NOT NULL, owner_id INTEGER NOT NULL REFERENCES museum (id), shown_at "
              + "INTEGER REFERENCES museum (id), made_year INTEGER, insured DECIMAL(10,2), currency "
              + "CHAR(3) NOT NULL);",
          "CREATE TABLE object_text (object_id INTEGER NOT NULL REFERENCES object (id), lang "
              + "CHAR(2) NOT NULL, title VARCHAR(60) NOT NULL, PRIMARY KEY (object_id, lang));",
          "CREATE TABLE rate (currency CHAR(3) NOT NULL, on_day DATE NOT NULL, in_euro "
              + "DECIMAL(8,4) NOT NULL, PRIMARY KEY (currency, on_day));",
          "CREATE TABLE exhibition (id INTEGER PRIMARY KEY, title VARCHAR(60) NOT NULL, "
              + "museum_id INTEGER NOT NULL REFERENCES museum (id), opens DATE NOT NULL, closes "
              + "DATE, lead_id INTEGER REFERENCES curator (id), deputy_id INTEGER REFERENCES curator "
              + "(id));",
          "CREATE TABLE loan (exhibition_id INTEGER NOT NULL REFERENCES exhibition (id), "
              + "object_id INTEGER NOT NULL REFERENCES object (id), fee DECIMAL(8,2), arrived DATE, "
              + "returned DATE, PRIMARY KEY (exhibition_id, object_id));",
          "CREATE TABLE state (object_id INTEGER NOT NULL REFERENCES object (id), seen_on DATE "
              + "NOT NULL, grade VARCHAR(10) NOT NULL, by_id INTEGER REFERENCES curator (id), "
              + "PRIMARY KEY (object_id, seen_on));",
          "CREATE TABLE ticket (id INTEGER PRIMARY KEY, exhibition_id INTEGER REFERENCES "
              + "exhibition (id), museum_id INTEGER NOT NULL REFERENCES museum (id), sold_at "
              + "TIMESTAMP NOT NULL, price DECIMAL(6,2) NOT NULL, kind VARCHAR(10) NOT NULL, "
              + "member_no INTEGER);",
          "INSERT INTO museum VALUES (1, 'House of Rivers', 'Almar', NULL), (2, 'Old Mill', "
              + "'Almar', 1), (3, 'Lantern Tower', 'Brenn', 1), (4, 'Stone Yard', 'Calder', NULL), "
              + "(5, 'Glass Hall', 'Brenn', 4), (6, 'Boat Shed', 'Dorn', 3);",
          "INSERT INTO curator VALUES (1, 'Ada', 'Morn', 1, NULL, '2010-01-01', NULL, "
              + "5200.00), (2, 'Bel', 'Tarn', 1, 1, '2014-03-01', NULL, 4100.00), (3, 'Cas', 'Morn', "
              + "2, 1, '2015-05-01', NULL, 3900.00), (4, 'Dov', 'Lind', 3, 1, '2018-02-01', "
              + "'2024-06-30', 3800.00), (5, 'Eli', 'Quay', 4, NULL, '2012-09-01', NULL, 5600.00), "
              + "(6, 'Fen', 'Lind', 5, 5, '2019-09-01', NULL, 3500.00), (7, 'Gil', 'Ross', 5, 6, "
              + "'2021-01-15', NULL, 3100.00), (8, 'Ada', 'Morn', 3, 4, '2023-01-15', NULL, "
              + "3000.00);",
          "INSERT INTO object VALUES (1, 'River at dusk', 'OIL', 1, 1, 1921, 12000.00, 'EUR'), "
              + "(2, 'River at dawn', 'OIL', 1, 3, 1922, 15000.00, 'EUR'), (3, 'The ferryman', "
              + "'SCULPT', 4, 4, 1950, 8000.00, 'CHF'), (4, 'Reed knife', 'TOOL', 2, NULL, NULL, "
              + "150.00, 'EUR'), (5, 'Long boat', 'BOAT', 6, 6, 1890, 2200.00, 'SEK'), (6, 'Rain', "
              + "'WATER', 3, 1, 1968, NULL, 'EUR'), (7, 'Rain', 'WATER', 5, 5, 1990, 900.00, 'CHF'), "
              + "(8, 'Two hands', 'SCULPT', 4, NULL, 1999, 4000.00, 'SEK'), (9, 'Untitled', 'PAINT', "
              + "5, NULL, NULL, NULL, 'EUR');",
          "INSERT INTO object_text VALUES (1, 'de', 'Fluss am Abend'), (1, 'en', 'River at "
              + "dusk'), (2, 'de', 'Fluss am Morgen'), (2, 'en', 'River at dawn'), (3, 'en', 'The "
              + "ferryman'), (5, 'de', 'Langboot'), (5, 'en', 'Long boat'), (6, 'en', 'Rain'), (7, "
              + "'de', 'Regen'), (7, 'en', 'Rain');",
          "INSERT INTO rate VALUES ('EUR', '2025-01-01', 1.0000), ('CHF', '2025-01-01', "
              + "1.0600), ('SEK', '2025-01-01', 0.0870), ('EUR', '2025-02-01', 1.0000), ('CHF', "
              + "'2025-02-01', 1.0500), ('SEK', '2025-02-01', 0.0880), ('EUR', '2025-03-01', "
              + "1.0000), ('CHF', '2025-03-01', 1.0400);",
          "INSERT INTO exhibition VALUES (1, 'Rivers', 1, '2024-03-01', '2024-06-30', 2, 1), "
              + "(2, 'Stone and hand', 4, '2024-05-01', '2024-09-30', 5, NULL), (3, 'Rain', 3, "
              + "'2024-10-01', '2025-01-31', 4, 8), (4, 'Boats', 6, '2025-02-01', NULL, 8, 3), (5, "
              + "'Light', 5, '2025-03-01', '2025-05-31', NULL, 7), (6, 'Rivers', 2, '2025-06-01', "
              + "NULL, 3, NULL);",
          "INSERT INTO loan VALUES (1, 1, 0.00, '2024-02-20', '2024-07-05'), (1, 2, 0.00, "
              + "'2024-02-20', '2024-07-05'), (1, 5, 300.00, '2024-02-25', '2024-07-10'), (2, 3, "
              + "0.00, '2024-04-20', '2024-10-05'), (2, 8, NULL, '2024-04-20', NULL), (3, 6, 100.00, "
              + "'2024-09-20', '2025-02-05'), (3, 7, 250.00, '2024-09-25', '2025-02-07'), (3, 1, "
              + "400.00, '2024-09-28', NULL), (4, 5, 0.00, '2025-01-20', NULL), (5, 7, 0.00, "
              + "'2025-02-20', NULL);",
          "INSERT INTO state VALUES (1, '2023-01-10', 'good', 2), (1, '2024-07-06', 'fair', "
              + "2), (2, '2023-01-10', 'good', 2), (2, '2024-07-06', 'good', 1), (3, '2022-05-05', "
              + "'fair', 5), (3, '2024-10-06', 'poor', 5), (5, '2024-07-12', 'good', NULL), (6, "
              + "'2023-03-03', 'good', 4), (6, '2025-02-06', 'good', 8), (7, '2025-02-08', 'fair', "
              + "6);",
          "INSERT INTO ticket VALUES (1, 1, 1, '2024-03-02 10:00:00', 12.00, 'full', NULL), "
              + "(2, 1, 1, '2024-03-02 10:05:00', 8.00, 'reduced', 11), (3, 1, 1, '2024-06-30 "
              + "15:30:00', 12.00, 'full', 12), (4, NULL, 1, '2024-07-01 09:00:00', 6.00, 'full', "
              + "NULL), (5, 2, 4, '2024-05-03 11:00:00', 10.00, 'full', 13), (6, 2, 4, '2024-05-03 "
              + "11:00:00', 10.00, 'full', NULL), (7, 3, 3, '2024-12-31 13:00:00', 9.00, 'full', "
              + "11), (8, 3, 3, '2025-01-02 13:00:00', 6.00, 'reduced', 11), (9, NULL, 6, "
              + "'2025-01-05 13:00:00', 4.00, 'full', NULL), (10, 4, 6, '2025-02-03 13:00:00', 5.00, "
              + "'full', 14), (11, 4, 6, '2025-02-03 13:10:00', 5.00, 'full', 99), (12, 5, 5, "
              + "'2025-03-05 13:10:00', 7.00, 'reduced', 12);");

  private final WorldOnEngines world = new WorldOnEngines("museums", WORLD);

  @AfterClass
  void close() {
    world.close();
  }

  /** A query, and the kinds of its warnings. */
  @DataProvider
  static Object[][] firstAndLast() {
    String numbered =
        "SELECT q.object_id, q.grade AS %s FROM (SELECT object_id, grade, ROW_NUMBER() OVER"
            + " (PARTITION BY object_id ORDER BY %s) AS n FROM state) q WHERE q.n = 1";
    String cut =
        "SELECT o.id, (SELECT s.grade FROM state s WHERE s.object_id = o.id ORDER BY %s LIMIT 1) AS"
            + " %s FROM object o";
    String of = "SELECT s.object_id, %s FROM state s GROUP BY s.object_id";
    String shown = "SELECT s.object_id, %s AS %s FROM state s";
    return new Object[][] {
      {numbered.formatted("latest_grade", "seen_on"), "order-against-name"},
      {numbered.formatted("grade_at_last", "seen_on"), "order-against-name"},
      {numbered.formatted("first_grade", "seen_on DESC"), "order-against-name"},
      {numbered.formatted("latest_grade", "seen_on DESC"), ""},
      {numbered.formatted("first_grade", "seen_on"), ""},
      {numbered.formatted("grade", "seen_on"), ""},
      // Of a value that is no time the last may be the least.
      {numbered.formatted("last_grade", "grade"), ""},
      {
        "WITH latest AS (SELECT object_id, grade, RANK() OVER (PARTITION BY object_id ORDER BY"
            + " seen_on) AS n FROM state) SELECT o.title, l.grade FROM object o JOIN latest l ON"
            + " l.object_id = o.id AND l.n = 1",
        "order-against-name"
      },
      {
        "WITH latest AS (SELECT object_id, grade, RANK() OVER (PARTITION BY object_id ORDER BY"
            + " seen_on) AS n FROM state) SELECT o.title, l.grade FROM object o JOIN latest l ON"
            + " l.object_id = o.id AND l.n = 2",
        ""
      },
      {cut.formatted("s.seen_on", "last_grade"), "order-against-name"},
      {cut.formatted("s.seen_on DESC", "\"Earliest grade\""), "order-against-name"},
      {cut.formatted("s.seen_on DESC", "last_grade"), ""},
      {cut.formatted("s.grade", "last_grade"), ""},
      {of.formatted("MIN(s.seen_on) AS last_seen"), "order-against-name"},
      {of.formatted("MAX(s.seen_on) AS first_date"), "order-against-name"},
      {of.formatted("MAX(s.seen_on) AS last_state"), ""},
      {of.formatted("MIN(s.seen_on) AS first_seen, MAX(s.seen_on) AS last_seen"), ""},
      // The first day on which it is free is the last on which it is not.
      {"SELECT l.object_id, MAX(l.returned) AS first_free FROM loan l GROUP BY l.object_id", ""},
      {
        shown.formatted(
            "FIRST_VALUE(s.grade) OVER (PARTITION BY s.object_id ORDER BY s.seen_on DESC)",
            "first_grade"),
        "order-against-name"
      },
      {
        shown.formatted(
            "FIRST_VALUE(s.grade) OVER (PARTITION BY s.object_id ORDER BY s.seen_on)",
            "first_grade"),
        ""
      },
      // Who puts what has no end first takes that for the latest.
      {
        "SELECT q.object_id, q.exhibition_id AS last_shown FROM (SELECT object_id, exhibition_id,"
            + " ROW_NUMBER() OVER (PARTITION BY object_id ORDER BY returned NULLS FIRST) AS n FROM"
            + " loan) q WHERE q.n = 1",
        ""
      },
      // A name that the column has itself says nothing of an order.
      {
        "SELECT m.name, (SELECT c.last_name FROM curator c WHERE c.museum_id = m.id ORDER BY c.hired,"
            + " c.id LIMIT 1) AS last_name FROM museum m",
        ""
      },
      {
        "SELECT q.last_name FROM (SELECT c.last_name, ROW_NUMBER() OVER (PARTITION BY c.museum_id"
            + " ORDER BY c.hired, c.id) AS n FROM curator c) q WHERE q.n = 1",
        ""
      },
    };
  }

  @Test(dataProvider = "firstAndLast")
  public void whatIsCalledLastIsTheLast(String sql, String kinds) {
    world.hasWarnings(sql, kinds);
  }

  @DataProvider
  static Object[][] branches() {
    String shown = "SELECT t.id, CASE %s END AS bucket FROM ticket t";
    return new Object[][] {
      {shown.formatted("WHEN t.price < 6 THEN 'a' WHEN t.price > 6 THEN 'b'"), "gap-in-case"},
      {
        shown.formatted(
            "WHEN 5 >= t.price THEN 1 WHEN t.price BETWEEN 7 AND 9 THEN 2 WHEN 9 < t.price"
                + " THEN 3"),
        "gap-in-case"
      },
      {
        shown.formatted(
            "WHEN t.price <= 5 THEN 1 WHEN t.price > 6 AND t.price < 9 THEN 2 WHEN"
                + " t.price >= 9 THEN 3"),
        "gap-in-case"
      },
      {
        "SELECT q.bucket, COUNT(*) AS n FROM (SELECT CASE WHEN t.price < 8 THEN 'a' WHEN t.price > 8"
            + " THEN 'b' END AS bucket FROM ticket t) q GROUP BY q.bucket",
        "gap-in-case"
      },
      {shown.formatted("WHEN t.price < 6 THEN 'a' WHEN t.price >= 6 THEN 'b'"), ""},
      {shown.formatted("WHEN t.price < 6 THEN 'a' WHEN t.price > 6 THEN 'b' ELSE 'c'"), ""},
      // No price lies between.
      {shown.formatted("WHEN t.price < 3 THEN 'a' WHEN t.price > 3 THEN 'b'"), ""},
      {shown.formatted("WHEN t.price > 6 THEN 'dear'"), ""},
      {shown.formatted("WHEN t.price < 6 THEN 'a' WHEN t.kind > 'g' THEN 'b'"), ""},
      {
        "SELECT COUNT(CASE WHEN t.price < 6 THEN 1 WHEN t.price > 6 THEN 1 END) AS n FROM ticket t",
        ""
      },
      // What stands for NULL is said outside, and another CASE says for which rows it is.
      {
        "SELECT t.id, COALESCE(CASE WHEN t.price < 6 THEN 'a' WHEN t.price > 6 THEN 'b' END, 'six')"
            + " AS bucket FROM ticket t",
        ""
      },
      {
        shown.formatted(
            "WHEN t.price <> 6 THEN CASE WHEN t.price < 6 THEN 'a' WHEN t.price > 6 THEN 'b' END"),
        ""
      },
      {
        "SELECT t.museum_id FROM ticket t GROUP BY t.museum_id HAVING SUM(CASE WHEN t.price < 6 THEN 1"
            + " WHEN t.price > 6 THEN 2 END) > 1",
        ""
      },
      {
        "SELECT t.id, CASE WHEN t.price < 6 THEN 'a' WHEN t.price > 6 THEN 'b' END AS bucket FROM"
            + " ticket t WHERE t.price <> 6",
        ""
      },
    };
  }

  @Test(dataProvider = "branches")
  public void branchesMeet(String sql, String kinds) {
    world.hasWarnings(sql, kinds);
  }

  @DataProvider
  static Object[][] siblings() {
    String lines = "SELECT t.id, l.object_id FROM ticket t JOIN loan l ON %s";
    return new Object[][] {
      {lines.formatted("l.exhibition_id = t.exhibition_id"), true},
      {"SELECT t.id, l.fee FROM ticket t, loan l WHERE t.exhibition_id = l.exhibition_id", true},
      {
        lines.formatted(
            "l.exhibition_id = t.exhibition_id JOIN exhibition e ON e.id =" + " t.exhibition_id"),
        true
      },
      {
        "SELECT t.kind, COUNT(*) AS n FROM ticket t JOIN loan l ON l.exhibition_id = t.exhibition_id"
            + " GROUP BY t.kind",
        true
      },
      // What else connects the two picks the partners.
      {
        lines.formatted(
            "l.exhibition_id = t.exhibition_id AND l.arrived > CAST(t.sold_at AS DATE)"),
        false
      },
      {lines.formatted("l.exhibition_id = t.exhibition_id AND l.object_id = 1"), false},
      {
        "SELECT t.id, COUNT(DISTINCT l.object_id) AS objects FROM ticket t JOIN loan l ON"
            + " l.exhibition_id = t.exhibition_id GROUP BY t.id",
        false
      },
      // From link to link.
      {
        "SELECT l.exhibition_id, x.lang FROM loan l JOIN object_text x ON x.object_id = l.object_id AND"
            + " x.lang = 'en'",
        false
      },
      {
        "SELECT a.id, b.id AS other FROM ticket a JOIN ticket b ON b.exhibition_id = a.exhibition_id AND a.id < b.id",
        false
      },
    };
  }

  @Test(dataProvider = "siblings")
  public void listsOfOneParentAreNotMultiplied(String sql, boolean told) {
    world.forEach(
        (engine, lantrel) ->
            assertThat(lantrel.study(sql).findings())
                .as(engine + ": " + sql)
                .filteredOn(each -> each.kind() == Kind.CROSSED_BRANCHES)
                .hasSize(told ? 1 : 0)
                .allMatch(each -> each.severity() == Severity.NOTE));
  }

  /** COUNT(*) under the name of what the rows refer to. */
  @DataProvider
  static Object[][] counted() {
    String counted =
        "SELECT o.currency, COUNT(*) AS %s FROM loan l JOIN object o ON o.id = l.object_id GROUP BY"
            + " o.currency";
    return new Object[][] {
      {counted.formatted("exhibitions"), "repeated-in-total"},
      {counted.formatted("objects"), "repeated-in-total"},
      {counted.formatted("n"), ""},
      {counted.formatted("loans"), ""},
      {
        "SELECT e.museum_id, COUNT(*) AS objects FROM loan l, exhibition e WHERE e.id ="
            + " l.exhibition_id GROUP BY e.museum_id",
        ""
      },
    };
  }

  @Test(dataProvider = "counted")
  public void eachIsCountedOnce(String sql, String kinds) {
    world.hasWarnings(sql, kinds);
  }

  @DataProvider
  static Object[][] kept() {
    String texts =
        "SELECT o.id, t.title FROM object o LEFT JOIN object_text t ON t.object_id = o.id%s";
    return new Object[][] {
      {texts.formatted(" WHERE COALESCE(t.lang, 'de') = 'de'"), "outer-join-cancelled"},
      {texts.formatted(" WHERE 'de' = COALESCE(t.lang, 'de')"), "outer-join-cancelled"},
      {texts.formatted(" AND t.lang = 'de'"), ""},
      {texts.formatted(" AND COALESCE(t.lang, 'de') = 'de'"), ""},
    };
  }

  /** A title in each language is the title said again. */
  @DataProvider
  static Object[][] languages() {
    String titles = "SELECT %s FROM object o JOIN object_text t ON t.object_id = o.id%s";
    return new Object[][] {
      {titles.formatted("o.id, t.title", ""), "partial-key"},
      {titles.formatted("o.id, t.title", " WHERE o.currency = 'EUR'"), "partial-key"},
      {titles.formatted("o.id, t.title", " AND t.lang = 'de'"), ""},
      {titles.formatted("o.id, t.title", " WHERE t.lang IN ('de', 'en')"), ""},
      {titles.formatted("o.id, t.lang, t.title", ""), ""},
      {titles.formatted("DISTINCT o.id", ""), ""},
      {
        "SELECT o.id, d.title AS german, e.title AS english FROM object o LEFT JOIN object_text d ON"
            + " d.object_id = o.id AND d.lang = 'de' LEFT JOIN object_text e ON e.object_id = o.id"
            + " AND e.lang = 'en'",
        ""
      },
      // A list of children says something of its own.
      {"SELECT o.id, s.grade FROM object o JOIN state s ON s.object_id = o.id", ""},
    };
  }

  @Test(dataProvider = "languages")
  public void aTitleIsInOneLanguage(String sql, String kinds) {
    world.hasWarnings(sql, kinds);
  }

  @Test(dataProvider = "kept")
  public void everyObjectIsKept(String sql, String kinds) {
    world.hasWarnings(sql, kinds);
  }

  /** What is right in these rows by chance, or may be meant: a note and its words, or none. */
  @DataProvider
  static Object[][] notes() {
    String salaries =
        "SELECT m.id, SUM(c.salary) AS salaries FROM museum m JOIN curator c ON c.museum_id = m.id"
            + " JOIN exhibition e ON e.museum_id = m.id";
    String mean = "SELECT l.exhibition_id, %s AS fee FROM loan l GROUP BY l.exhibition_id";
    String last =
        "SELECT s.object_id, s.grade FROM state s WHERE %s IN (SELECT MAX(x.seen_on)%s FROM state x"
            + " GROUP BY x.object_id)";
    return new Object[][] {
      {
        salaries + " GROUP BY m.id",
        "repeated-in-total",
        "would count a curator once for every exhibition joined to it, though none of 8 curators"
      },
      {
        salaries.replace("SELECT m.id,", "SELECT m.id, COUNT(c.id) AS n, AVG(c.salary) AS mean,")
            + " GROUP BY m.id",
        "repeated-in-total",
        "COUNT(c.id) would count a curator once for every exhibition joined to it"
      },
      {salaries + " WHERE e.opens > '2024-04-01' GROUP BY m.id", "repeated-in-total", ""},
      {salaries + " GROUP BY m.id, e.id", "repeated-in-total", ""},
      {
        mean.formatted("SUM(l.fee) / COUNT(*)"),
        "count-of-missing",
        "also counts 1 loan of which l.fee is NULL"
      },
      {
        mean.formatted("SUM(l.fee) / NULLIF(COUNT(*), 0)"),
        "count-of-missing",
        "Write AVG(l.fee), or COALESCE if 0 is meant."
      },
      {mean.formatted("SUM(l.fee) / COUNT(l.fee)"), "count-of-missing", ""},
      // What the join repeats is told by itself.
      {
        "SELECT SUM(l.fee) / COUNT(*) AS fee FROM loan l JOIN object_text x ON x.object_id ="
            + " l.object_id",
        "count-of-missing",
        ""
      },
      {mean.formatted("SUM(COALESCE(l.fee, 0)) / COUNT(*)"), "count-of-missing", ""},
      {"SELECT SUM(t.price) / COUNT(*) AS per_visitor FROM ticket t", "count-of-missing", ""},
      {
        "SELECT m.name, (SELECT SUM(t.price) FROM ticket t) AS sold FROM museum m",
        "uncorrelated-exists",
        "This subquery says nothing about museum m: every row gets the same"
      },
      {
        "SELECT m.name, (SELECT SUM(t.price) FROM ticket t LIMIT 1) AS total_sold FROM museum m",
        "uncorrelated-exists",
        ""
      },
      {
        "SELECT m.name, (SELECT SUM(t.price) FROM ticket t) AS total_sold FROM museum m",
        "uncorrelated-exists",
        ""
      },
      {
        "SELECT m.name, (SELECT SUM(t.price) FROM ticket t WHERE t.museum_id = m.id) AS sold FROM"
            + " museum m",
        "uncorrelated-exists",
        ""
      },
      {
        "SELECT c.id, (SELECT SUM(x.salary) FROM curator x) AS pay FROM curator c",
        "uncorrelated-exists",
        ""
      },
      {
        "SELECT t.id, t.price / (SELECT SUM(x.price) FROM ticket x) AS share FROM ticket t",
        "uncorrelated-exists",
        ""
      },
      {
        last.formatted("s.seen_on", ""),
        "partial-key",
        "a state would also meet that of another object_id, though none does here"
      },
    };
  }

  @Test(dataProvider = "notes")
  public void whatIsRightByChanceIsANote(String sql, String kind, String words) {
    world.forEach(
        (engine, lantrel) -> {
          List<Finding> found =
              lantrel.study(sql).findings().stream()
                  .filter(each -> each.kind().id().equals(kind))
                  .toList();
          assertThat(found).as(engine + ": " + sql).hasSize(words.isEmpty() ? 0 : 1);
          assertThat(found)
              .allMatch(each -> each.severity() == Severity.NOTE && each.message().contains(words));
        });
    Repaired.keepsItsWord(sql, world.duckdb());
  }

  /** A query with the faulty part in «», what that becomes, and the kind. */
  @DataProvider
  static Object[][] mended() {
    return new Object[][] {
      {
        "SELECT q.grade AS latest_grade FROM (SELECT s.grade, ROW_NUMBER() OVER (PARTITION BY"
            + " s.object_id ORDER BY s.seen_on«») AS n FROM state s) q WHERE q.n = 1",
        " DESC",
        "order-against-name"
      },
      {
        "SELECT o.id, (SELECT s.grade FROM state s WHERE s.object_id = o.id ORDER BY s.seen_on« desc»"
            + " LIMIT 1) AS first_grade FROM object o",
        "",
        "order-against-name"
      },
      {
        "SELECT s.object_id, «MIN»(s.seen_on) AS last_seen FROM state s GROUP BY s.object_id",
        "MAX",
        "order-against-name"
      },
      {
        "select s.object_id, «max»(s.seen_on) as first_seen from state s group by s.object_id",
        "min",
        "order-against-name"
      },
    };
  }

  @Test(dataProvider = "mended")
  public void theRepairChangesAPartAlone(String marked, String instead, String kind) {
    Repaired.changesAPartAlone(marked, instead, kind, world.duckdb());
  }

  /** A fault that is found as it stands, and in each place of other queries. */
  @DataProvider
  static Object[][] placed() {
    return Within.others(
        List.of(
            List.of(
                "order-against-name",
                "SELECT q.id FROM (SELECT object_id, ROW_NUMBER() OVER (PARTITION BY object_id"
                    + " ORDER BY seen_on) AS n FROM state) latest_state, object q WHERE"
                    + " latest_state.n = 1 AND q.id = latest_state.object_id"),
            List.of(
                "gap-in-case",
                "SELECT CASE WHEN t.price < 6 THEN 1 WHEN t.price > 6 THEN 2 END FROM ticket t"),
            List.of(
                "outer-join-cancelled",
                "SELECT LENGTH(t.title) FROM object o LEFT JOIN object_text t ON t.object_id = o.id"
                    + " WHERE COALESCE(t.lang, 'de') = 'de'")),
        "museum",
        "id",
        "name",
        "town");
  }

  @Test(dataProvider = "placed")
  public void aFaultIsFoundWithinOtherQueries(String sql, String kind) {
    world.forEach(
        (engine, lantrel) ->
            assertThat(lantrel.study(sql).findings())
                .as(engine.title() + ": " + sql)
                .anyMatch(each -> Repaired.isOf(each, kind)));
  }
}
