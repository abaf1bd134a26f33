package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A world of bakeries that no example uses: recipes, prices of their time, sales and shifts. */
public class BakeryTest {

  private static final List<String> WORLD =
      List.of(
          "CREATE TABLE shop (id INTEGER PRIMARY KEY, name VARCHAR(40) NOT NULL, town "
              + "VARCHAR(30) NOT NULL, region_code CHAR(2), opened DATE NOT NULL);",
          "CREATE TABLE staff (id INTEGER PRIMARY KEY, first_name VARCHAR(30) NOT NULL, "
              + "last_name VARCHAR(30) NOT NULL, shop_id INTEGER REFERENCES shop (id), manager_id "
              + "INTEGER REFERENCES staff (id), started DATE NOT NULL, ended DATE, hourly "
              + "DECIMAL(6,2));",
          "CREATE TABLE product (id INTEGER PRIMARY KEY, name VARCHAR(40) NOT NULL, category "
              + "VARCHAR(20), weight_g INTEGER, is_sold BOOLEAN NOT NULL);",
          "CREATE TABLE recipe (product_id INTEGER NOT NULL REFERENCES product (id), part_id "
              + "INTEGER NOT NULL REFERENCES product (id), grams INTEGER NOT NULL, PRIMARY KEY "
              + "(product_id, part_id));",
          "CREATE TABLE supplier (id INTEGER PRIMARY KEY, name VARCHAR(40) NOT NULL, town "
              + "VARCHAR(30), email VARCHAR(60));",
          "CREATE TABLE supply (supplier_id INTEGER NOT NULL REFERENCES supplier (id), "
              + "product_id INTEGER NOT NULL REFERENCES product (id), lead_days INTEGER, preferred "
              + "BOOLEAN, PRIMARY KEY (supplier_id, product_id));",
          "CREATE TABLE price (product_id INTEGER NOT NULL REFERENCES product (id), valid_from "
              + "DATE NOT NULL, valid_to DATE, amount DECIMAL(8,2) NOT NULL, PRIMARY KEY "
              + "(product_id, valid_from));",
          "CREATE TABLE customer (id INTEGER PRIMARY KEY, name VARCHAR(40) NOT NULL, email "
              + "VARCHAR(60), recommended_by INTEGER REFERENCES customer (id), home_shop_id INTEGER "
              + "REFERENCES shop (id));",
          "CREATE TABLE purchase (id INTEGER PRIMARY KEY, customer_id INTEGER REFERENCES "
              + "customer (id), shop_id INTEGER NOT NULL REFERENCES shop (id), sold_by INTEGER "
              + "REFERENCES staff (id), sold_at TIMESTAMP NOT NULL, status VARCHAR(10) NOT NULL, "
              + "discount DECIMAL(6,2));",
          "CREATE TABLE purchase_line (purchase_id INTEGER NOT NULL REFERENCES purchase (id), "
              + "line_no INTEGER NOT NULL, product_id INTEGER NOT NULL REFERENCES product (id), "
              + "pieces INTEGER NOT NULL, unit_price DECIMAL(8,2) NOT NULL, PRIMARY KEY "
              + "(purchase_id, line_no));",
          "CREATE TABLE payment (id INTEGER PRIMARY KEY, purchase_id INTEGER NOT NULL "
              + "REFERENCES purchase (id), paid_at TIMESTAMP NOT NULL, amount DECIMAL(8,2) NOT NULL, "
              + "method VARCHAR(10) NOT NULL);",
          "CREATE TABLE shift (id INTEGER PRIMARY KEY, staff_id INTEGER NOT NULL REFERENCES "
              + "staff (id), shop_id INTEGER NOT NULL REFERENCES shop (id), begins TIMESTAMP NOT "
              + "NULL, finishes TIMESTAMP);",
          "CREATE TABLE target (shop_id INTEGER NOT NULL REFERENCES shop (id), month_start "
              + "DATE NOT NULL, goal DECIMAL(10,2) NOT NULL, PRIMARY KEY (shop_id, month_start));",
          "CREATE TABLE complaint (id INTEGER PRIMARY KEY, purchase_id INTEGER NOT NULL, "
              + "line_no INTEGER, told_on DATE NOT NULL, handled_by INTEGER REFERENCES staff (id), "
              + "text VARCHAR(200), FOREIGN KEY (purchase_id, line_no) REFERENCES purchase_line "
              + "(purchase_id, line_no));",
          "INSERT INTO shop VALUES (1, 'Old Market', 'Almar', 'NO', '2015-03-01'), (2, 'Mill "
              + "Lane', 'Brenn', 'NO', '2017-05-01'), (3, 'Harbour', 'Calder', 'SU', '2019-01-15'), "
              + "(4, 'Station', 'Almar', NULL, '2021-06-01'), (5, 'Hill Top', 'Dorn', 'SU', "
              + "'2025-12-01');",
          "INSERT INTO staff VALUES (1, 'Ada', 'Morn', 1, NULL, '2015-02-01', NULL, 25.5), (2, "
              + "'Bel', 'Tarn', 1, 1, '2016-02-01', NULL, 18), (3, 'Cas', 'Morn', 2, 1, "
              + "'2017-02-01', NULL, 21), (4, 'Dov', 'Lind', 2, 3, '2018-02-01', '2025-06-30', "
              + "17.5), (5, 'Eli', 'Quay', 3, NULL, '2019-02-01', NULL, 24), (6, 'Fen', 'Lind', 3, "
              + "5, '2020-02-01', NULL, 16.8), (7, 'Gil', 'Ross', 4, 1, '2021-02-01', NULL, 19), (8, "
              + "'Ada', 'Morn', 4, 7, '2022-02-01', '2025-06-30', 16.5), (9, 'Hal', 'Vane', NULL, "
              + "NULL, '2023-02-01', NULL, NULL), (10, 'Ivo', 'Reed', NULL, 9, '2024-02-01', NULL, "
              + "30);",
          "INSERT INTO product VALUES (1, 'Rye loaf', 'bread', 100, true), (2, 'Wheat loaf', "
              + "'bread', 200, true), (3, 'Butter roll', 'roll', 300, true), (4, 'Poppy roll', "
              + "'roll', 400, true), (5, 'Apple cake', 'cake', 500, true), (6, 'Plum cake', 'cake', "
              + "100, true), (7, 'Rye flour', 'raw', 200, false), (8, 'Wheat flour', 'raw', 300, "
              + "false), (9, 'Butter', 'raw', 400, false), (10, 'Poppy seed', 'raw', 500, false), "
              + "(11, 'Apple', 'raw', 100, false), (12, 'Plum', 'raw', 200, false), (13, 'Basic "
              + "dough', 'dough', 300, false), (14, 'Sweet dough', 'dough', 400, false), (15, "
              + "'Leaven', 'dough', 500, false), (16, 'Gift card', NULL, NULL, true), (17, 'Water', "
              + "'raw', NULL, false);",
          "INSERT INTO recipe VALUES (1, 15, 100), (1, 7, 500), (2, 13, 700), (3, 13, 60), (3, "
              + "9, 10), (4, 13, 60), (4, 10, 5), (5, 14, 300), (5, 11, 200), (6, 14, 300), (6, 12, "
              + "220), (13, 8, 500), (13, 17, 300), (13, 15, 40), (14, 13, 400), (14, 9, 100), (15, "
              + "7, 100), (15, 17, 100);",
          "INSERT INTO supplier VALUES (1, 'North Mill', 'Brenn', 'n@mill.example'), (2, "
              + "'Green Farm', 'Dorn', NULL), (3, 'Dairy Union', 'Almar', 'd@union.example'), (4, "
              + "'Seed House', NULL, 's@house.example');",
          "INSERT INTO supply VALUES (1, 7, 3, true), (1, 8, 3, true), (2, 11, 1, true), (2, "
              + "12, 1, NULL), (2, 7, 2, false), (3, 9, NULL, true), (2, 9, 4, false);",
          "INSERT INTO price VALUES (1, '2024-01-01', '2024-12-31', 4.2), (1, '2025-01-01', "
              + "'2025-06-30', 4.41), (1, '2025-07-01', NULL, 4.62), (2, '2024-01-01', '2024-12-31', "
              + "3.8), (2, '2025-01-01', '2025-06-30', 3.99), (2, '2025-07-01', NULL, 4.18), (3, "
              + "'2024-01-01', '2024-12-31', 0.9), (3, '2025-01-01', '2025-06-30', 0.95), (3, "
              + "'2025-07-01', NULL, 0.99), (4, '2024-01-01', '2024-12-31', 1.0), (4, '2025-01-01', "
              + "'2025-06-30', 1.05), (4, '2025-07-01', NULL, 1.1), (5, '2024-01-01', '2024-12-31', "
              + "2.8), (5, '2025-01-01', '2025-06-30', 2.94), (5, '2025-07-01', NULL, 3.08), (6, "
              + "'2024-01-01', '2024-12-31', 2.9), (6, '2025-01-01', '2025-06-30', 3.04), (6, "
              + "'2025-07-01', NULL, 3.19);",
          "INSERT INTO customer VALUES (1, 'Lia Brook', 'lia@x.example', NULL, 1), (2, 'Mo "
              + "Carr', 'mo@x.example', 1, 1), (3, 'Ned Dale', NULL, 1, 2), (4, 'Oda Elm', "
              + "'oda@x.example', 2, 3), (5, 'Pia Fell', NULL, NULL, NULL), (6, 'Lia Brook', "
              + "'lia2@x.example', 4, 2), (7, 'Quin Gale', 'q@x.example', NULL, 5), (8, 'Ria Hurst', "
              + "'r@x.example', 7, 5);",
          "INSERT INTO purchase VALUES (1, 4, 1, 2, '2025-01-01 08:15:00', 'paid', NULL), (2, "
              + "1, 4, 7, '2025-02-08 09:15:00', 'paid', NULL), (3, 1, 1, NULL, '2025-03-15 "
              + "10:15:00', 'void', NULL), (4, 5, 1, NULL, '2025-04-22 11:15:00', 'paid', 1.0), (5, "
              + "1, 4, NULL, '2025-05-01 12:15:00', 'paid', NULL), (6, 6, 2, 4, '2025-06-08 "
              + "13:15:00', 'paid', NULL), (7, 2, 1, NULL, '2025-07-15 14:15:00', 'paid', 0.5), (8, "
              + "1, 4, 8, '2025-08-22 15:15:00', 'paid', 1.0), (9, 4, 2, NULL, '2025-09-01 "
              + "16:15:00', 'open', 0.5), (10, 6, 1, 1, '2025-10-08 08:15:00', 'paid', 0.5), (11, 6, "
              + "2, 3, '2025-11-15 09:15:00', 'void', NULL), (12, 5, 3, 6, '2025-01-22 10:15:00', "
              + "'paid', NULL), (13, 5, 2, NULL, '2025-02-01 11:15:00', 'open', NULL), (14, 2, 1, 2, "
              + "'2025-03-08 12:15:00', 'void', NULL), (15, NULL, 2, NULL, '2025-04-15 13:15:00', "
              + "'void', 1.0), (16, 6, 4, 8, '2025-05-22 14:15:00', 'open', 0.5);",
          "INSERT INTO purchase_line VALUES (1, 1, 3, 5, 0.9), (2, 1, 4, 1, 1.0), (2, 2, 2, 1, "
              + "3.8), (2, 3, 5, 4, 2.8), (3, 1, 1, 2, 4.2), (3, 2, 1, 5, 4.2), (3, 3, 2, 3, 3.8), "
              + "(4, 1, 1, 5, 4.2), (4, 2, 5, 2, 2.8), (5, 1, 4, 5, 1.0), (5, 2, 4, 3, 1.0), (7, 1, "
              + "6, 4, 2.9), (7, 2, 3, 5, 0.9), (8, 1, 4, 4, 1.0), (8, 2, 1, 1, 4.2), (9, 1, 1, 3, "
              + "4.2), (10, 1, 6, 4, 2.9), (10, 2, 6, 3, 2.9), (11, 1, 1, 2, 4.2), (11, 2, 3, 2, "
              + "0.9), (11, 3, 6, 2, 2.9), (12, 1, 4, 5, 1.0), (12, 2, 3, 2, 0.9), (12, 3, 4, 5, "
              + "1.0), (13, 1, 1, 2, 4.2), (13, 2, 2, 2, 3.8), (14, 1, 3, 1, 0.9), (14, 2, 2, 4, "
              + "3.8), (15, 1, 6, 5, 2.9), (15, 2, 5, 1, 2.8), (16, 1, 1, 4, 4.2), (16, 2, 6, 4, "
              + "2.9), (16, 3, 1, 2, 4.2);",
          "INSERT INTO payment VALUES (1, 1, '2025-01-01 08:15:00', 2.25, 'cash'), (2, 1, "
              + "'2025-01-03 08:15:00', 2.25, 'card'), (3, 2, '2025-02-08 09:15:00', 16.0, 'cash'), "
              + "(4, 4, '2025-04-22 11:15:00', 26.6, 'card'), (5, 5, '2025-05-01 12:15:00', 8.0, "
              + "'card'), (6, 7, '2025-07-15 14:15:00', 16.1, 'cash'), (7, 8, '2025-08-22 15:15:00', "
              + "8.2, 'card'), (8, 10, '2025-10-08 08:15:00', 20.3, 'cash'), (9, 12, '2025-01-22 "
              + "10:15:00', 11.8, 'card');",
          "INSERT INTO shift VALUES (1, 2, 2, '2025-01-01 06:00:00', NULL), (2, 8, 4, "
              + "'2025-02-02 06:00:00', '2025-02-02 10:00:00'), (3, 2, 1, '2025-03-03 06:00:00', "
              + "'2025-03-03 12:00:00'), (4, 1, 1, '2025-04-04 06:00:00', '2025-04-04 10:00:00'), "
              + "(5, 1, 1, '2025-05-05 06:00:00', '2025-05-05 14:00:00'), (6, 3, 2, '2025-06-06 "
              + "06:00:00', '2025-06-06 14:00:00'), (7, 2, 3, '2025-01-07 06:00:00', '2025-01-07 "
              + "14:00:00'), (8, 1, 1, '2025-02-08 06:00:00', '2025-02-08 10:00:00');",
          "INSERT INTO target VALUES (1, '2025-01-01', 101), (1, '2025-02-01', 102), (2, "
              + "'2025-01-01', 201), (2, '2025-02-01', 202), (3, '2025-01-01', 301), (3, "
              + "'2025-02-01', 302);",
          "INSERT INTO complaint VALUES (1, 8, 1, '2025-11-01', 1, 'stale'), (2, 13, 1, "
              + "'2025-11-02', 5, 'stale'), (3, 3, NULL, '2025-11-03', NULL, 'stale'), (4, 11, 3, "
              + "'2025-11-04', 3, 'stale'), (5, 4, 2, '2025-11-05', 9, 'stale'), (6, 7, 1, "
              + "'2025-11-06', NULL, 'stale');");

  private final WorldOnEngines bakery = new WorldOnEngines("bakery", WORLD);

  @AfterClass
  public void close() {
    bakery.close();
  }

  /** Queries with a fault, and the kinds of the warnings. */
  @DataProvider
  static Object[][] faulty() {
    return new Object[][] {
      // The last end of those that have one, where a price has none.
      {
        "SELECT pr.product_id, MAX(pr.valid_to) AS valid_to FROM price pr GROUP BY pr.product_id",
        "null-comparison"
      },
      // What never meets is the equality, and not the order beside it.
      {
        "SELECT e.last_name FROM staff e JOIN staff m ON m.id = e.manager_id + 1000 AND m.hourly <"
            + " e.hourly",
        "never-a-row"
      },
      {
        "SELECT y.id FROM purchase p, payment y WHERE y.purchase_id = p.id + 1000 AND y.paid_at >="
            + " p.sold_at",
        "never-a-row"
      },
      {
        "SELECT p.shop_id, SUM(l.pieces * l.unit_price) AS revenue, SUM(y.amount) AS "
            + "paid FROM purchase p JOIN purchase_line l ON l.purchase_id = p.id JOIN "
            + "payment y ON y.purchase_id = p.id GROUP BY p.shop_id",
        "repeated-in-total"
      },
      {
        "SELECT l.purchase_id, SUM(l.pieces * pr.amount) AS total FROM purchase_line l "
            + "JOIN price pr ON pr.product_id = l.product_id GROUP BY l.purchase_id",
        "partial-key"
      },
      {
        "SELECT p.id, pr.amount FROM purchase p JOIN purchase_line l ON l.purchase_id "
            + "= p.id JOIN price pr ON pr.product_id = l.line_no AND p.sold_at >= "
            + "pr.valid_from",
        "not-a-reference"
      },
      {
        "SELECT c.id, pd.name FROM complaint c JOIN purchase_line l ON l.purchase_id = "
            + "c.purchase_id JOIN product pd ON pd.id = l.product_id",
        "partial-key"
      },
      {
        "SELECT p.id, s.name AS shop, st.last_name FROM purchase p JOIN staff st ON "
            + "st.id = p.sold_by JOIN shop s ON s.id = st.shop_id WHERE s.name = 'Mill Lane' "
            + "AND p.shop_id = st.id",
        "never-a-row"
      },
      {
        "SELECT e.last_name AS employee, m.last_name AS manager FROM staff e JOIN "
            + "staff m ON m.manager_id = e.id",
        "reversed-self-join"
      },
      {
        "SELECT c.name FROM customer c WHERE c.id NOT IN (SELECT p.customer_id FROM "
            + "purchase p)",
        "not-in-null"
      },
      {
        "SELECT s.name, COUNT(p.id) AS open_ones FROM shop s LEFT JOIN purchase p ON "
            + "p.shop_id = s.id WHERE p.status = 'open' GROUP BY s.id, s.name",
        "outer-join-cancelled"
      },
      {
        "SELECT c.name, COUNT(*) AS purchases FROM customer c LEFT JOIN purchase p ON "
            + "p.customer_id = c.id GROUP BY c.id, c.name",
        "count-of-missing"
      },
      {
        "SELECT c.name, SUM(y.amount) AS spent FROM customer c JOIN purchase p ON "
            + "p.customer_id = c.id JOIN payment y ON y.purchase_id = p.id GROUP BY c.name",
        "grouped-by-name"
      },
      {
        "SELECT AVG(l.pieces * l.unit_price) AS average_purchase FROM purchase p JOIN "
            + "purchase_line l ON l.purchase_id = p.id",
        "repeated-in-total"
      },
      {
        "SELECT p.id, SUM(l.pieces * l.unit_price - p.discount) AS due FROM purchase p "
            + "JOIN purchase_line l ON l.purchase_id = p.id GROUP BY p.id",
        "null-swallows"
      },
      {
        "SELECT p.id, SUM(l.pieces * l.unit_price) - p.discount AS due FROM purchase p "
            + "JOIN purchase_line l ON l.purchase_id = p.id GROUP BY p.id, p.discount",
        "null-swallows"
      },
      {
        "SELECT p.id FROM purchase p JOIN shop s ON s.id = p.shop_id WHERE s.town = "
            + "'Almar' AND p.status = 'open' OR p.status = 'void'",
        "mixed-and-or"
      },
      {
        "SELECT s.name FROM shop s WHERE NOT EXISTS (SELECT 1 FROM purchase p WHERE "
            + "p.status = 'paid')",
        "uncorrelated-exists"
      },
      {
        "SELECT pd.name, (SELECT MIN(pr.amount) FROM price pr WHERE pr.product_id = "
            + "pd.id) AS latest_price FROM product pd WHERE pd.is_sold",
        "values-of-several-rows"
      },
      {
        "SELECT DISTINCT c.name FROM customer c JOIN purchase p ON p.customer_id = c.id",
        "grouped-by-name"
      },
      {"SELECT s.name || ', ' || s.region_code AS label FROM shop s", "null-swallows"},
      {
        "SELECT a.id, b.id FROM customer a JOIN customer b ON a.name = b.name AND a.id "
            + "<> b.id",
        "mirrored-pairs"
      },
      {
        "SELECT c.id, c.told_on, h.last_name FROM complaint c JOIN staff h ON h.id = "
            + "c.handled_by",
        "rows-without-partner"
      },
      {
        "SELECT s.name, COUNT(p.customer_id) AS purchases FROM shop s JOIN purchase p "
            + "ON p.shop_id = s.id GROUP BY s.id, s.name",
        "uncounted-rows"
      },
      {
        "SELECT SUM(x.amount) AS total FROM (SELECT y.amount FROM payment y WHERE "
            + "y.method = 'cash' UNION SELECT y.amount FROM payment y WHERE y.method = "
            + "'card') x",
        "union-removes-rows"
      },
      {
        "SELECT p.id, s.name AS sold_in FROM purchase p JOIN customer c ON c.id = "
            + "p.customer_id JOIN shop s ON s.id = c.home_shop_id",
        "rows-without-partner"
      },
      {
        "SELECT pd.name, u.name AS supplier FROM product pd LEFT JOIN supply y ON "
            + "y.product_id = pd.id JOIN supplier u ON u.id = y.supplier_id",
        "outer-chain-broken"
      },
      {
        "SELECT pd.name, pr.amount FROM product pd LEFT JOIN price pr ON pr.product_id "
            + "= pd.id AND pd.is_sold AND pr.valid_to IS NULL",
        "filter-on-kept-side"
      },
      {
        "SELECT pd.name FROM product pd WHERE pd.id IN (SELECT r.part_id FROM recipe r "
            + "WHERE r.product_id = pd.id)",
        "never-a-row"
      },
      {
        "SELECT c.name FROM customer c WHERE c.id IN (SELECT recommended_by FROM " + "purchase)",
        "never-a-row accidental-outer-column"
      },
      {
        "SELECT p.id, (SELECT y.method FROM payment y WHERE y.purchase_id = p.id) AS "
            + "method FROM purchase p",
        "subquery-many-rows"
      },
      {
        "SELECT p.id, l.line_no, SUM(p.discount) OVER (PARTITION BY p.shop_id) AS "
            + "discounts FROM purchase p JOIN purchase_line l ON l.purchase_id = p.id",
        "repeated-in-total"
      },
      {
        "SELECT st.shop_id, MAX(st.started) AS last_hired, MAX(st.last_name) AS "
            + "last_name FROM staff st GROUP BY st.shop_id",
        "values-of-several-rows"
      },
      {
        "SELECT s.name, p.id, c.name FROM shop s, purchase p, customer c WHERE s.id = "
            + "p.shop_id AND p.status = 'open'",
        "cross-product"
      },
      {
        "SELECT s.name, SUM(t.goal) AS goal, COUNT(p.id) AS sales FROM shop s LEFT "
            + "JOIN target t ON t.shop_id = s.id LEFT JOIN purchase p ON p.shop_id = s.id "
            + "GROUP BY s.id, s.name",
        "repeated-in-total"
      },
      {
        "SELECT AVG(m.mean) AS mean FROM (SELECT p.shop_id, AVG(y.amount) AS mean FROM "
            + "purchase p JOIN payment y ON y.purchase_id = p.id GROUP BY p.shop_id) m",
        "average-of-averages"
      },
      {
        "SELECT c.name, COUNT(r.id) AS recommended FROM customer c JOIN customer r ON "
            + "r.id = c.recommended_by GROUP BY c.id, c.name",
        "reversed-self-join"
      },
      {"SELECT pd.name FROM product pd WHERE pd.category = 'Bread'", "nearly-equal"},
      {
        "WITH t AS (SELECT purchase_id, SUM(pieces * unit_price) AS total FROM "
            + "purchase_line GROUP BY purchase_id) SELECT t.purchase_id, t.total, y.amount "
            + "FROM t JOIN payment y ON y.id = t.purchase_id",
        "not-a-reference"
      },
      {
        "SELECT SUM(t.total) AS revenue FROM purchase_line l JOIN (SELECT purchase_id, "
            + "SUM(pieces * unit_price) AS total FROM purchase_line GROUP BY purchase_id) t "
            + "ON t.purchase_id = l.purchase_id",
        "repeated-in-total"
      },
      {
        "SELECT c.name, c.email FROM customer c UNION ALL SELECT u.email, u.name FROM "
            + "supplier u",
        "swapped-columns"
      },
      {"SELECT c.id FROM customer c EXCEPT SELECT p.id FROM purchase p", "not-a-reference"},
      {
        "SELECT st.last_name FROM staff st WHERE NOT EXISTS (SELECT 1 FROM purchase p "
            + "WHERE p.customer_id = st.id)",
        "not-a-reference"
      },
      {
        "SELECT p.shop_id, p.id, LAST_VALUE(p.sold_at) OVER (PARTITION BY p.shop_id "
            + "ORDER BY p.sold_at) AS last_sale FROM purchase p",
        "last-so-far"
      },
      {
        "SELECT product_id, valid_from, amount - LAG(amount) OVER (ORDER BY "
            + "product_id, valid_from) AS change FROM price",
        "partial-key"
      },
      {
        "SELECT m.id, COUNT(e.id) AS reports, COUNT(sh.id) AS shifts FROM staff m LEFT "
            + "JOIN staff e ON e.manager_id = m.id LEFT JOIN shift sh ON sh.staff_id = m.id "
            + "GROUP BY m.id",
        "repeated-in-total"
      },
      {"SELECT s.name FROM shop s WHERE s.region_code NOT IN ('NO', NULL)", "not-in-null"},
      {"SELECT p.id FROM purchase p JOIN price pr ON pr.valid_from = p.sold_at", "type-mismatch"},
      {
        "SELECT p.id FROM purchase p JOIN purchase_line l ON l.purchase_id = p.id JOIN "
            + "payment y ON y.purchase_id = p.id GROUP BY p.id HAVING SUM(y.amount) >= "
            + "SUM(l.pieces * l.unit_price)",
        "repeated-in-total"
      },
      {
        "SELECT s.name, AVG(st.hourly) AS mean_hourly FROM shop s JOIN staff st ON "
            + "st.shop_id = s.id JOIN shift sh ON sh.staff_id = st.id GROUP BY s.id, s.name",
        "repeated-in-total"
      },
      {
        "SELECT p.shop_id, MAX(c.name) AS best_customer, MAX(y.amount) AS best_amount "
            + "FROM purchase p JOIN customer c ON c.id = p.customer_id JOIN payment y ON "
            + "y.purchase_id = p.id GROUP BY p.shop_id",
        "rows-without-partner"
      },
      {
        "SELECT s.name, COUNT(p.id) * 100.0 / SUM(COUNT(*)) OVER () AS share FROM shop "
            + "s LEFT JOIN purchase p ON p.shop_id = s.id GROUP BY s.id, s.name",
        "repeated-in-total"
      },
      {
        "SELECT r.product_id, SUM(pd.weight_g) AS grams FROM recipe r JOIN product pd "
            + "ON pd.id = r.product_id GROUP BY r.product_id",
        "repeated-in-total"
      },
      {
        "SELECT p.shop_id, COUNT(c.id) AS complaints FROM purchase p JOIN "
            + "purchase_line l ON l.purchase_id = p.id LEFT JOIN complaint c ON "
            + "c.purchase_id = p.id GROUP BY p.shop_id",
        "repeated-in-total"
      },
      {
        "SELECT s.name FROM shop s LEFT JOIN purchase p ON p.shop_id = s.id WHERE "
            + "p.customer_id IS NULL",
        "partner-test-on-nullable"
      },
      {
        "SELECT p.shop_id, COUNT(CASE WHEN p.status = 'void' THEN 1 ELSE 0 END) AS "
            + "void FROM purchase p GROUP BY p.shop_id",
        "count-ignores-condition"
      },
      {
        "SELECT n.product_id, n.amount - o.amount AS change FROM price n JOIN price o "
            + "ON o.product_id = n.product_id AND o.valid_from < n.valid_from",
        "rows-repeated"
      },
      {
        "SELECT t.shop_id, t.month_start, SUM(y.amount) AS reached FROM target t JOIN "
            + "purchase p ON p.shop_id = t.shop_id JOIN payment y ON y.purchase_id = p.id "
            + "GROUP BY t.shop_id, t.month_start",
        "partial-key"
      },
      {
        "SELECT p.customer_id, MIN(p.id) AS first_purchase, MIN(p.sold_at) AS "
            + "first_sold FROM purchase p GROUP BY p.customer_id",
        "values-of-several-rows"
      },
      {
        "SELECT pd.name FROM product pd WHERE EXISTS (SELECT 1 FROM supply y JOIN "
            + "supplier u ON u.id = y.supplier_id WHERE u.town = 'Brenn')",
        "uncorrelated-exists"
      },
      {
        "SELECT COUNT(*) AS customers FROM purchase p WHERE p.customer_id IS NOT NULL "
            + "GROUP BY p.customer_id",
        "repeated-in-total"
      },
      {
        "SELECT a.product_id FROM supply a JOIN supply b ON b.product_id = a.product_id",
        "self-match"
      },
      {
        "SELECT st.last_name, s.name FROM staff st JOIN shift sh ON sh.staff_id = "
            + "st.id JOIN shop s ON s.id = sh.id",
        "not-a-reference"
      },
      {
        "SELECT n.product_id, n.amount - o.amount AS change FROM price n JOIN price o "
            + "ON o.product_id = n.product_id AND o.valid_from < n.valid_from",
        "rows-repeated"
      },
      {
        "SELECT t.shop_id, t.month_start, SUM(y.amount) AS reached FROM target t JOIN "
            + "purchase p ON p.shop_id = t.shop_id JOIN payment y ON y.purchase_id = p.id "
            + "GROUP BY t.shop_id, t.month_start",
        "partial-key"
      }
    };
  }

  @Test(dataProvider = "faulty")
  public void itIsFoundOnEachEngine(String sql, String kinds) {
    bakery.hasWarnings(sql, kinds);
  }

  /** Faulty queries that not every engine reads. */
  @DataProvider
  static Object[][] faultyOnDuckdb() {
    return new Object[][] {
      {
        "SELECT p.id, l.line_no, pr.amount FROM purchase p JOIN purchase_line l ON "
            + "l.purchase_id = p.id JOIN price pr ON pr.product_id = l.product_id AND "
            + "CAST(p.sold_at AS DATE) BETWEEN pr.valid_from AND pr.valid_to",
        "null-comparison"
      },
      {
        "SELECT p.id, t.goal FROM purchase p JOIN target t ON t.month_start = "
            + "CAST(DATE_TRUNC('month', p.sold_at) AS DATE)",
        "partial-key"
      },
      {"SELECT st.last_name FROM staff st WHERE st.ended >= DATE '2025-12-01'", "never-a-row"},
      {
        "WITH RECURSIVE parts AS (SELECT r.product_id AS top, r.part_id FROM recipe r "
            + "WHERE r.product_id = 5 UNION ALL SELECT q.top, r.part_id FROM parts q JOIN "
            + "recipe r ON r.part_id = q.part_id) SELECT * FROM parts LIMIT 100",
        "endless-recursion unordered-limit"
      },
      {
        "SELECT st.last_name, COUNT(*) AS shifts FROM staff st JOIN shift sh ON "
            + "sh.staff_id = st.id WHERE sh.finishes > TIMESTAMP '2025-02-01 00:00:00' OR "
            + "NOT sh.finishes > TIMESTAMP '2025-02-01 00:00:00' GROUP BY st.last_name",
        "grouped-by-name"
      },
      {"SELECT * FROM shop NATURAL JOIN supplier", "natural-surprise"},
      {"SELECT p.id, s.name FROM purchase p JOIN shop s USING (id)", "natural-surprise"},
      {
        "SELECT c.name, (SELECT p.id FROM purchase p WHERE p.customer_id = c.id LIMIT "
            + "1) AS last_purchase FROM customer c",
        "unordered-limit"
      },
      {
        "SELECT s.name, t.goal FROM shop s FULL JOIN target t ON t.shop_id = s.id "
            + "WHERE s.town = 'Almar'",
        "outer-join-cancelled"
      },
      {
        "SELECT c.name, x.sold_at FROM customer c LEFT JOIN LATERAL (SELECT p.sold_at "
            + "FROM purchase p WHERE p.customer_id IS NOT NULL ORDER BY p.sold_at DESC LIMIT "
            + "1) x ON TRUE",
        "cross-product"
      },
      {
        "SELECT DISTINCT ON (p.customer_id) p.customer_id, p.id, p.sold_at FROM "
            + "purchase p ORDER BY p.customer_id",
        "unordered-limit"
      },
      {
        "SELECT DISTINCT ON (p.customer_id) p.customer_id, p.sold_at AS last_sold_at "
            + "FROM purchase p ORDER BY p.customer_id, p.sold_at",
        "order-against-name"
      },
      {
        "SELECT s.name, COUNT(p.id) FILTER (WHERE p.status = 'paid') AS paid, "
            + "SUM(l.pieces) AS pieces FROM shop s LEFT JOIN purchase p ON p.shop_id = s.id "
            + "LEFT JOIN purchase_line l ON l.purchase_id = p.id GROUP BY s.id, s.name",
        "repeated-in-total"
      },
      {
        "WITH RECURSIVE line AS (SELECT s.id, s.last_name, 1 AS level FROM staff s "
            + "UNION ALL SELECT s.id, s.last_name, l.level + 1 FROM staff s JOIN line l ON "
            + "s.manager_id = l.id) SELECT id, last_name, level FROM line",
        "rows-repeated"
      },
      {
        "SELECT DISTINCT l.product_id FROM purchase p JOIN purchase_line l ON "
            + "l.purchase_id = p.id WHERE EXTRACT(MONTH FROM p.sold_at) = 3 AND "
            + "EXTRACT(MONTH FROM p.sold_at) = 4",
        "never-a-row"
      },
      {
        "SELECT x.id, l.line_no FROM (SELECT p.id FROM purchase p LIMIT 5) x JOIN "
            + "purchase_line l ON l.purchase_id = x.id",
        "unordered-limit"
      },
      {
        "SELECT p.customer_id, STRING_AGG(s.name, ', ') AS shops FROM purchase p JOIN "
            + "shop s ON s.id = p.shop_id GROUP BY p.customer_id",
        "repeated-in-total"
      },
      {
        "SELECT u.supplier_id FROM supply u WHERE u.lead_days <= ALL (SELECT "
            + "x.lead_days FROM supply x WHERE x.product_id = u.product_id)",
        "not-in-null"
      },
      {
        "SELECT l.purchase_id, SUM(l.pieces * pr.amount) AS total FROM purchase p JOIN "
            + "purchase_line l ON l.purchase_id = p.id JOIN price pr ON pr.product_id = "
            + "l.product_id AND pr.valid_from <= CAST(p.sold_at AS DATE) GROUP BY "
            + "l.purchase_id",
        "partial-key"
      },
      {
        "WITH RECURSIVE t AS (SELECT c.id, c.name, c.recommended_by FROM customer c "
            + "WHERE c.id = 4 UNION ALL SELECT c.id, c.name, c.recommended_by FROM customer "
            + "c JOIN t ON t.id = c.id) SELECT * FROM t LIMIT 20",
        "endless-recursion unordered-limit"
      },
      {
        "SELECT l.purchase_id, SUM(l.pieces * pr.amount) AS total FROM purchase p JOIN "
            + "purchase_line l ON l.purchase_id = p.id JOIN price pr ON pr.product_id = "
            + "l.product_id AND pr.valid_from <= CAST(p.sold_at AS DATE) GROUP BY "
            + "l.purchase_id",
        "partial-key"
      },
      {
        "SELECT l.purchase_id, l.line_no, pr.amount FROM purchase p JOIN purchase_line "
            + "l ON l.purchase_id = p.id JOIN price pr ON pr.product_id = l.product_id AND "
            + "pr.valid_from <= CAST(p.sold_at AS DATE)",
        "partial-key"
      },
      {
        "SELECT DISTINCT ON (p.customer_id) p.customer_id, p.sold_at AS last_sold_at "
            + "FROM purchase p ORDER BY p.customer_id, p.sold_at",
        "order-against-name"
      }
    };
  }

  @Test(dataProvider = "faultyOnDuckdb")
  public void itIsFound(String sql, String kinds) {
    assertThat(warnings(sql)).isEqualTo(List.of(kinds.split(" ", -1)));
    Repaired.keepsItsWord(sql, bakery.duckdb());
  }

  private List<String> warnings(String sql) {
    return bakery.duckdb().study(sql).findings().stream()
        .filter(each -> each.severity() != Severity.NOTE)
        .map(each -> each.kind().id())
        .distinct()
        .toList();
  }

  /** Queries that are right, however they look. */
  @DataProvider
  static Object[][] right() {
    return new Object[][] {
      {
        "SELECT t.shop_id, t.month_start, SUM(y.amount) AS so_far FROM target t JOIN "
            + "purchase p ON p.shop_id = t.shop_id AND p.sold_at < t.month_start JOIN "
            + "payment y ON y.purchase_id = p.id GROUP BY t.shop_id, t.month_start"
      },
      {
        "SELECT a.product_id, a.valid_from, COUNT(*) AS nth FROM price a JOIN price b "
            + "ON b.product_id = a.product_id AND b.valid_from <= a.valid_from GROUP BY "
            + "a.product_id, a.valid_from"
      },
      {
        "SELECT p.id, COUNT(e.id) AS earlier FROM purchase p LEFT JOIN purchase e ON "
            + "e.customer_id = p.customer_id AND e.sold_at < p.sold_at GROUP BY p.id"
      },
      {
        "SELECT p.id, COUNT(sh.id) AS shifts_before FROM purchase p LEFT JOIN shift sh "
            + "ON sh.shop_id = p.shop_id AND sh.begins < p.sold_at GROUP BY p.id"
      },
      {
        "SELECT s.name, COALESCE(SUM(l.pieces * l.unit_price), 0) AS revenue FROM shop "
            + "s LEFT JOIN purchase p ON p.shop_id = s.id AND p.status = 'paid' LEFT JOIN "
            + "purchase_line l ON l.purchase_id = p.id GROUP BY s.id, s.name"
      },
      {
        "SELECT pd.name, pr.amount FROM product pd JOIN price pr ON pr.product_id = "
            + "pd.id AND pr.valid_to IS NULL"
      },
      {
        "SELECT p.id, t.total, COALESCE(y.paid, 0) AS paid FROM purchase p JOIN "
            + "(SELECT purchase_id, SUM(pieces * unit_price) AS total FROM purchase_line "
            + "GROUP BY purchase_id) t ON t.purchase_id = p.id LEFT JOIN (SELECT "
            + "purchase_id, SUM(amount) AS paid FROM payment GROUP BY purchase_id) y ON "
            + "y.purchase_id = p.id"
      },
      {
        "SELECT c.id, c.told_on, pd.name FROM complaint c LEFT JOIN purchase_line l ON "
            + "l.purchase_id = c.purchase_id AND l.line_no = c.line_no LEFT JOIN product pd "
            + "ON pd.id = l.product_id"
      },
      {
        "SELECT e.last_name AS employee, m.last_name AS manager FROM staff e LEFT JOIN "
            + "staff m ON m.id = e.manager_id"
      },
      {
        "SELECT c.name FROM customer c WHERE NOT EXISTS (SELECT 1 FROM purchase p "
            + "WHERE p.customer_id = c.id)"
      },
      {
        "SELECT c.id, c.name FROM customer c LEFT JOIN purchase p ON p.customer_id = "
            + "c.id WHERE p.id IS NULL"
      },
      {
        "SELECT s.name, COUNT(p.id) AS open_ones FROM shop s LEFT JOIN purchase p ON "
            + "p.shop_id = s.id AND p.status = 'open' GROUP BY s.id, s.name"
      },
      {
        "SELECT pd.id, pd.name, COUNT(DISTINCT p.shop_id) AS shops FROM product pd "
            + "JOIN purchase_line l ON l.product_id = pd.id JOIN purchase p ON p.id = "
            + "l.purchase_id GROUP BY pd.id, pd.name HAVING COUNT(DISTINCT p.shop_id) >= 2"
      },
      {
        "SELECT a.last_name, b.last_name FROM staff a JOIN staff b ON b.shop_id = "
            + "a.shop_id AND a.id < b.id"
      },
      {
        "SELECT pd.name, part.name AS part, r.grams FROM product pd JOIN recipe r ON "
            + "r.product_id = pd.id JOIN product part ON part.id = r.part_id WHERE "
            + "pd.is_sold ORDER BY pd.name, part.name"
      },
      {
        "SELECT q.name, q.id, q.sold_at FROM (SELECT c.name, p.id, p.sold_at, "
            + "ROW_NUMBER() OVER (PARTITION BY c.id ORDER BY p.sold_at DESC, p.id DESC) AS n "
            + "FROM customer c JOIN purchase p ON p.customer_id = c.id) q WHERE q.n = 1"
      },
      {
        "SELECT pd.category, ROUND(100.0 * SUM(l.pieces) / SUM(SUM(l.pieces)) OVER (), "
            + "1) AS percent FROM purchase_line l JOIN product pd ON pd.id = l.product_id "
            + "GROUP BY pd.category ORDER BY percent DESC"
      },
      {
        "SELECT pd.id, pd.name || COALESCE(' (' || pd.category || ')', '') AS label "
            + "FROM product pd"
      },
      {
        "SELECT c.id, c.name, COUNT(r.id) AS recommended FROM customer c LEFT JOIN "
            + "customer r ON r.recommended_by = c.id GROUP BY c.id, c.name"
      },
      {
        "SELECT p.id FROM purchase p LEFT JOIN purchase_line l ON l.purchase_id = p.id "
            + "WHERE l.purchase_id IS NULL"
      },
      {
        "SELECT p.id FROM purchase p WHERE p.status = 'paid' AND (SELECT "
            + "COALESCE(SUM(y.amount), 0) FROM payment y WHERE y.purchase_id = p.id) < "
            + "(SELECT COALESCE(SUM(l.pieces * l.unit_price), 0) FROM purchase_line l WHERE "
            + "l.purchase_id = p.id)"
      },
      {
        "SELECT u.name, y.lead_days FROM supply y JOIN supplier u ON u.id = "
            + "y.supplier_id JOIN product pd ON pd.id = y.product_id WHERE pd.name = 'Rye "
            + "flour' ORDER BY y.lead_days"
      },
      {
        "SELECT y.product_id, COUNT(*) AS suppliers FROM supply y GROUP BY "
            + "y.product_id HAVING COUNT(*) > 1"
      },
      {
        "SELECT a.product_id, b.product_id AS other, COUNT(*) AS times FROM "
            + "purchase_line a JOIN purchase_line b ON b.purchase_id = a.purchase_id AND "
            + "b.product_id > a.product_id GROUP BY a.product_id, b.product_id"
      },
      {
        "SELECT p.shop_id, y.paid_at, SUM(y.amount) OVER (PARTITION BY p.shop_id ORDER "
            + "BY y.paid_at, y.id) AS so_far FROM payment y JOIN purchase p ON p.id = "
            + "y.purchase_id"
      },
      {
        "SELECT p.id, c.name AS customer, st.first_name || ' ' || st.last_name AS "
            + "seller FROM purchase p LEFT JOIN customer c ON c.id = p.customer_id LEFT JOIN "
            + "staff st ON st.id = p.sold_by"
      },
      {
        "SELECT p.id, MIN(y.paid_at) AS first_paid, MAX(y.paid_at) AS last_paid FROM "
            + "purchase p JOIN payment y ON y.purchase_id = p.id GROUP BY p.id"
      },
      {
        "SELECT a.id, b.id AS other FROM shift a JOIN shift b ON b.staff_id = "
            + "a.staff_id AND b.id > a.id AND b.begins < a.finishes AND a.begins < b.finishes"
      },
      {
        "SELECT product_id, valid_from, amount - LAG(amount) OVER (PARTITION BY "
            + "product_id ORDER BY valid_from) AS change FROM price"
      },
      {
        "SELECT COALESCE(s.region_code, 'none') AS region, COUNT(*) AS shops FROM shop "
            + "s GROUP BY COALESCE(s.region_code, 'none')"
      },
      {
        "SELECT s.id, s.name FROM shop s JOIN purchase p ON p.shop_id = s.id GROUP BY "
            + "s.id, s.name HAVING COUNT(*) > (SELECT COUNT(*) * 1.0 / COUNT(DISTINCT "
            + "shop_id) FROM purchase)"
      },
      {
        "SELECT p.customer_id FROM purchase p WHERE p.shop_id = 1 AND p.customer_id IS "
            + "NOT NULL INTERSECT SELECT p.customer_id FROM purchase p WHERE p.shop_id = 2"
      },
      {
        "SELECT p.shop_id, SUM(CASE WHEN p.status = 'paid' THEN 1 ELSE 0 END) AS paid, "
            + "SUM(CASE WHEN p.status = 'open' THEN 1 ELSE 0 END) AS open FROM purchase p "
            + "GROUP BY p.shop_id"
      },
      {
        "SELECT pd.id, pd.name, COUNT(DISTINCT c.id) AS complaints, COUNT(DISTINCT "
            + "l.purchase_id) AS purchases FROM product pd LEFT JOIN purchase_line l ON "
            + "l.product_id = pd.id LEFT JOIN complaint c ON c.purchase_id = l.purchase_id "
            + "AND c.line_no = l.line_no GROUP BY pd.id, pd.name"
      },
      {
        "SELECT p.id, h.name AS home, s.name AS sold_in FROM purchase p JOIN shop s ON "
            + "s.id = p.shop_id JOIN customer c ON c.id = p.customer_id JOIN shop h ON h.id "
            + "= c.home_shop_id WHERE h.id <> s.id"
      },
      {"SELECT st.last_name FROM staff st WHERE st.shop_id IS NULL"},
      {"SELECT DISTINCT m.id, m.last_name FROM staff m JOIN staff e ON e.manager_id = " + "m.id"},
      {
        "SELECT x.category, x.name, x.pieces FROM (SELECT pd.category, pd.name, "
            + "SUM(l.pieces) AS pieces, RANK() OVER (PARTITION BY pd.category ORDER BY "
            + "SUM(l.pieces) DESC) AS r FROM product pd JOIN purchase_line l ON l.product_id "
            + "= pd.id GROUP BY pd.id, pd.category, pd.name) x WHERE x.r = 1"
      },
      {
        "SELECT u.name FROM supplier u LEFT JOIN supply y ON y.supplier_id = u.id "
            + "WHERE y.supplier_id IS NULL"
      },
      {
        "SELECT AVG(t.total) AS mean FROM (SELECT l.purchase_id, SUM(l.pieces * "
            + "l.unit_price) AS total FROM purchase_line l GROUP BY l.purchase_id) t"
      },
      {
        "SELECT c.id, c.name FROM customer c WHERE EXISTS (SELECT 1 FROM purchase p "
            + "JOIN purchase_line l ON l.purchase_id = p.id JOIN product pd ON pd.id = "
            + "l.product_id WHERE p.customer_id = c.id AND pd.category = 'bread') AND EXISTS "
            + "(SELECT 1 FROM purchase p JOIN purchase_line l ON l.purchase_id = p.id JOIN "
            + "product pd ON pd.id = l.product_id WHERE p.customer_id = c.id AND pd.category "
            + "= 'cake')"
      },
      {
        "SELECT COUNT(*) AS n FROM purchase p WHERE p.sold_at >= '2025-03-01' AND "
            + "p.sold_at < '2025-04-01'"
      },
      {
        "SELECT l.purchase_id, l.line_no, CASE WHEN l.unit_price < 1 THEN 'cheap' WHEN "
            + "l.unit_price > 4 THEN 'dear' END AS mark FROM purchase_line l"
      },
      {
        "SELECT p.shop_id, COUNT(*) AS n, AVG(p.discount) AS mean_of_given, "
            + "SUM(COALESCE(p.discount, 0)) / COUNT(*) AS mean_of_all FROM purchase p GROUP "
            + "BY p.shop_id"
      },
      {
        "SELECT st.last_name, s.name, sh.begins FROM staff st LEFT JOIN shift sh ON "
            + "sh.staff_id = st.id LEFT JOIN shop s ON s.id = sh.shop_id ORDER BY "
            + "st.last_name, sh.begins"
      },
      {
        "SELECT st.id, st.last_name, COUNT(c.id) AS handled FROM staff st LEFT JOIN "
            + "complaint c ON c.handled_by = st.id GROUP BY st.id, st.last_name"
      },
      {
        "SELECT r.product_id, SUM(r.grams) / 1000.0 AS kilos FROM recipe r GROUP BY "
            + "r.product_id"
      },
      {
        "SELECT pd.name, (SELECT MAX(pr.amount) FROM price pr WHERE pr.product_id = "
            + "pd.id AND pr.valid_to IS NULL) AS latest_price FROM product pd WHERE "
            + "pd.is_sold"
      },
      {
        "SELECT s.name, AVG(y.amount) AS average_payment FROM shop s JOIN purchase p "
            + "ON p.shop_id = s.id JOIN payment y ON y.purchase_id = p.id GROUP BY s.id, "
            + "s.name"
      }
    };
  }

  @Test(dataProvider = "right")
  public void nothingIsWarnedOf(String sql) {
    bakery.hasWarnings(sql, "");
  }

  /** Queries that may be meant, and their notes. */
  @DataProvider
  static Object[][] noted() {
    return new Object[][] {
      // Who looks for exceptions may find none.
      {
        "SELECT e.last_name FROM staff e JOIN staff m ON m.id = e.manager_id WHERE e.hourly > m.hourly",
        "never-a-row"
      },
      {
        "SELECT a.id FROM payment a JOIN payment b ON b.purchase_id = a.purchase_id AND b.id > a.id AND b.paid_at < a.paid_at",
        "never-a-row"
      },
      {
        "SELECT p.id FROM purchase p JOIN payment y ON y.purchase_id = p.id GROUP BY p.id, p.discount HAVING SUM(y.amount) < p.discount",
        "never-a-row rows-without-partner"
      },
      // The greatest is the latest as long as prices rise.
      {
        "SELECT pd.name, (SELECT MAX(pr.amount) FROM price pr WHERE pr.product_id = pd.id) AS"
            + " latest_price FROM product pd WHERE pd.is_sold",
        "values-of-several-rows"
      },
    };
  }

  @Test(dataProvider = "noted")
  public void itIsNoMoreThanANote(String sql, String kinds) {
    bakery.forEach(
        (engine, lantrel) ->
            assertThat(lantrel.study(sql).findings())
                .as(engine + ": " + sql)
                .allMatch(each -> each.severity() == Severity.NOTE)
                .extracting(each -> each.kind().id())
                .containsExactlyInAnyOrder(kinds.split(" ", -1)));
  }

  /** The same of queries that not every engine reads. */
  @DataProvider
  static Object[][] rightOnDuckdb() {
    return new Object[][] {
      {
        "SELECT l.purchase_id, l.line_no, pr.amount FROM purchase p JOIN purchase_line "
            + "l ON l.purchase_id = p.id JOIN price pr ON pr.product_id = l.product_id AND "
            + "pr.valid_from <= CAST(p.sold_at AS DATE) WHERE NOT EXISTS (SELECT 1 FROM "
            + "price n WHERE n.product_id = pr.product_id AND n.valid_from > pr.valid_from "
            + "AND n.valid_from <= CAST(p.sold_at AS DATE))"
      },
      {
        "SELECT l.purchase_id, l.line_no, pr.amount FROM purchase p JOIN purchase_line "
            + "l ON l.purchase_id = p.id JOIN price pr ON pr.product_id = l.product_id AND "
            + "pr.valid_from = (SELECT MAX(n.valid_from) FROM price n WHERE n.product_id = "
            + "pr.product_id AND n.valid_from <= CAST(p.sold_at AS DATE))"
      },
      {
        "SELECT q.purchase_id, q.line_no, q.amount FROM (SELECT l.purchase_id, "
            + "l.line_no, pr.amount, ROW_NUMBER() OVER (PARTITION BY l.purchase_id, "
            + "l.line_no ORDER BY pr.valid_from DESC) AS n FROM purchase p JOIN "
            + "purchase_line l ON l.purchase_id = p.id JOIN price pr ON pr.product_id = "
            + "l.product_id AND pr.valid_from <= CAST(p.sold_at AS DATE)) q WHERE q.n = 1"
      },
      {
        "SELECT l.purchase_id, l.line_no, MAX(pr.amount) AS highest FROM purchase p "
            + "JOIN purchase_line l ON l.purchase_id = p.id JOIN price pr ON pr.product_id = "
            + "l.product_id AND pr.valid_from <= CAST(p.sold_at AS DATE) GROUP BY "
            + "l.purchase_id, l.line_no"
      },
      {
        "SELECT l.purchase_id, pr.valid_from, pr.amount FROM purchase p JOIN "
            + "purchase_line l ON l.purchase_id = p.id JOIN price pr ON pr.product_id = "
            + "l.product_id AND pr.valid_from > CAST(p.sold_at AS DATE)"
      },
      {
        "SELECT p.id, l.line_no, pr.amount FROM purchase p JOIN purchase_line l ON "
            + "l.purchase_id = p.id JOIN price pr ON pr.product_id = l.product_id AND "
            + "CAST(p.sold_at AS DATE) >= pr.valid_from AND (pr.valid_to IS NULL OR "
            + "CAST(p.sold_at AS DATE) <= pr.valid_to)"
      },
      {
        "WITH RECURSIVE parts AS (SELECT r.product_id AS top, r.part_id, CAST(r.grams "
            + "AS DOUBLE) AS grams FROM recipe r UNION ALL SELECT q.top, r.part_id, q.grams "
            + "* r.grams / 1000.0 FROM parts q JOIN recipe r ON r.product_id = q.part_id) "
            + "SELECT t.name, x.name AS part, SUM(q.grams) AS grams FROM parts q JOIN "
            + "product t ON t.id = q.top JOIN product x ON x.id = q.part_id GROUP BY t.id, "
            + "t.name, x.id, x.name"
      },
      {
        "WITH RECURSIVE line AS (SELECT s.id, s.last_name, 1 AS level FROM staff s "
            + "WHERE s.manager_id IS NULL UNION ALL SELECT s.id, s.last_name, l.level + 1 "
            + "FROM staff s JOIN line l ON s.manager_id = l.id) SELECT * FROM line ORDER BY "
            + "level, last_name"
      },
      {
        "SELECT c.name, x.id, x.sold_at FROM customer c LEFT JOIN LATERAL (SELECT "
            + "p.id, p.sold_at FROM purchase p WHERE p.customer_id = c.id ORDER BY p.sold_at "
            + "DESC, p.id LIMIT 1) x ON TRUE"
      },
      {
        "SELECT t.shop_id, t.month_start, t.goal, COALESCE(SUM(y.amount), 0) AS "
            + "reached FROM target t LEFT JOIN purchase p ON p.shop_id = t.shop_id AND "
            + "p.sold_at >= t.month_start AND p.sold_at < t.month_start + INTERVAL 1 MONTH "
            + "LEFT JOIN payment y ON y.purchase_id = p.id GROUP BY t.shop_id, "
            + "t.month_start, t.goal"
      },
      {
        "WITH monthly AS (SELECT p.shop_id, CAST(DATE_TRUNC('month', p.sold_at) AS "
            + "DATE) AS month_start, SUM(y.amount) AS reached FROM purchase p JOIN payment y "
            + "ON y.purchase_id = p.id GROUP BY 1, 2) SELECT t.shop_id, t.month_start, "
            + "t.goal, m.reached FROM target t LEFT JOIN monthly m ON m.shop_id = t.shop_id "
            + "AND m.month_start = t.month_start"
      },
      {
        "SELECT st.id, st.last_name FROM staff st WHERE st.ended IS NULL OR st.ended "
            + ">= CURRENT_DATE"
      },
      {
        "SELECT sh.id, st.last_name, s.name FROM shift sh JOIN staff st ON st.id = "
            + "sh.staff_id JOIN shop s ON s.id = sh.shop_id WHERE st.shop_id IS DISTINCT "
            + "FROM sh.shop_id"
      },
      {
        "SELECT n.product_id, o.amount AS old, n.amount AS new FROM price o JOIN price "
            + "n ON n.product_id = o.product_id AND n.valid_from = o.valid_to + 1"
      },
      {
        "SELECT pd.name, STRING_AGG(part.name, ', ' ORDER BY part.name) AS parts FROM "
            + "product pd JOIN recipe r ON r.product_id = pd.id JOIN product part ON part.id "
            + "= r.part_id GROUP BY pd.id, pd.name"
      },
      {
        "SELECT sh.staff_id, SUM(DATE_DIFF('hour', sh.begins, sh.finishes)) AS hours "
            + "FROM shift sh WHERE sh.finishes IS NOT NULL GROUP BY sh.staff_id"
      },
      {
        "SELECT CASE WHEN l.pieces < 3 THEN 'few' WHEN l.pieces BETWEEN 3 AND 4 THEN "
            + "'some' ELSE 'many' END AS band, COUNT(*) AS line_count FROM purchase_line l "
            + "GROUP BY 1"
      },
      {
        "SELECT p.id FROM purchase p WHERE p.status = 'open' AND p.sold_at < (SELECT "
            + "MAX(x.sold_at) FROM purchase x) - INTERVAL 30 DAY"
      },
      {
        "SELECT s.name FROM shop s WHERE EXISTS (SELECT 1 FROM target t WHERE "
            + "t.shop_id = s.id) AND NOT EXISTS (SELECT 1 FROM target t WHERE t.shop_id = "
            + "s.id AND t.goal > (SELECT COALESCE(SUM(y.amount), 0) FROM payment y JOIN "
            + "purchase p ON p.id = y.purchase_id WHERE p.shop_id = t.shop_id AND p.sold_at "
            + ">= t.month_start AND p.sold_at < t.month_start + INTERVAL 1 MONTH))"
      },
      {
        "SELECT DISTINCT ON (p.customer_id) p.customer_id, p.sold_at, p.status FROM "
            + "purchase p WHERE p.customer_id IS NOT NULL ORDER BY p.customer_id, p.sold_at, "
            + "p.id"
      },
      {
        "SELECT l.purchase_id, l.line_no, pr.amount FROM purchase p JOIN purchase_line "
            + "l ON l.purchase_id = p.id JOIN price pr ON pr.product_id = l.product_id AND "
            + "pr.valid_from <= p.sold_at QUALIFY ROW_NUMBER() OVER (PARTITION BY "
            + "l.purchase_id, l.line_no ORDER BY pr.valid_from DESC) = 1"
      },
      {
        "SELECT DISTINCT ON (l.purchase_id, l.line_no) l.purchase_id, l.line_no, "
            + "pr.amount FROM purchase p JOIN purchase_line l ON l.purchase_id = p.id JOIN "
            + "price pr ON pr.product_id = l.product_id AND pr.valid_from <= p.sold_at ORDER "
            + "BY l.purchase_id, l.line_no, pr.valid_from DESC"
      },
      {
        "SELECT l.purchase_id, l.line_no, x.amount FROM purchase p JOIN purchase_line "
            + "l ON l.purchase_id = p.id LEFT JOIN LATERAL (SELECT pr.amount FROM price pr "
            + "WHERE pr.product_id = l.product_id AND pr.valid_from <= p.sold_at ORDER BY "
            + "pr.valid_from DESC LIMIT 1) x ON TRUE"
      }
    };
  }

  @Test(dataProvider = "rightOnDuckdb")
  public void nothingIsWarnedOfThere(String sql) {
    assertThat(warnings(sql)).isEmpty();
  }
}
