-- Queries with something that not every engine has, or that some take otherwise. Each gives one
-- value; where two engines give the same, nothing may be said of running it on both.

-- ---- joins
SELECT COUNT(*) FROM station s FULL JOIN river r ON r.id = s.river_id;
SELECT COUNT(*) FROM station s FULL OUTER JOIN river r ON r.id < s.river_id;
SELECT COUNT(*) FROM station s RIGHT JOIN river r ON r.id = s.river_id;
SELECT COUNT(*) FROM station s NATURAL JOIN reading d;
SELECT COUNT(*) FROM station s JOIN reading d USING (id);
SELECT COUNT(*) FROM station s CROSS JOIN river r;
SELECT COUNT(*) FROM station s JOIN river r;
SELECT COUNT(*) FROM station s LEFT JOIN river r ON r.id = s.river_id;
SELECT COUNT(*) FROM river r CROSS JOIN LATERAL (SELECT s.id FROM station s WHERE s.river_id = r.id) x;
SELECT COUNT(*) FROM river r LEFT JOIN LATERAL (SELECT s.id FROM station s WHERE s.river_id = r.id) x ON TRUE;
SELECT COUNT(*) FROM station s SEMI JOIN reading d ON d.station_id = s.id;
SELECT COUNT(*) FROM station s ANTI JOIN reading d ON d.station_id = s.id;
SELECT COUNT(*) FROM station s, river r JOIN warden w ON w.id = s.keeper_id WHERE r.id = s.river_id;

-- ---- set operations, WITH
SELECT COUNT(*) FROM (SELECT river_id FROM station EXCEPT SELECT id FROM river) x;
SELECT COUNT(*) FROM (SELECT river_id FROM station EXCEPT ALL SELECT id FROM river) x;
SELECT COUNT(*) FROM (SELECT river_id FROM station INTERSECT ALL SELECT id FROM river) x;
SELECT COUNT(*) FROM (SELECT 1 AS n FROM river UNION SELECT 2 AS n FROM river INTERSECT SELECT 3 AS n FROM river) x;
WITH RECURSIVE up (id, above) AS (SELECT id, flows_into FROM river WHERE id = 3 UNION ALL SELECT r.id, r.flows_into FROM river r JOIN up ON r.id = up.above) SELECT COUNT(*) FROM up;
WITH up (id, above) AS (SELECT id, flows_into FROM river WHERE id = 3 UNION ALL SELECT r.id, r.flows_into FROM river r JOIN up ON r.id = up.above) SELECT COUNT(*) FROM up;
WITH RECURSIVE up AS (SELECT id, flows_into FROM river WHERE id = 3 UNION ALL SELECT r.id, r.flows_into FROM river r JOIN up ON r.id = up.flows_into) SELECT COUNT(*) FROM up;
WITH w AS MATERIALIZED (SELECT id FROM river) SELECT COUNT(*) FROM w;
WITH w AS NOT MATERIALIZED (SELECT id FROM river) SELECT COUNT(*) FROM w;
SELECT COUNT(*) FROM (SELECT id FROM river);
SELECT COUNT(*) FROM (VALUES (1), (2)) AS v (n);
SELECT MAX(n) FROM (VALUES (1), (2)) AS v (n);
SELECT COUNT(*) FROM (SELECT id FROM river) AS v (n);
SELECT COUNT(*) FROM river AS r (a, b);

-- ---- groups, windows, DISTINCT
SELECT COUNT(*) FROM (SELECT bank, keeper_id, COUNT(*) AS n FROM station GROUP BY ROLLUP (bank, keeper_id)) x;
SELECT COUNT(*) FROM (SELECT bank, keeper_id, COUNT(*) AS n FROM station GROUP BY CUBE (bank, keeper_id)) x;
SELECT COUNT(*) FROM (SELECT bank, keeper_id, COUNT(*) AS n FROM station GROUP BY GROUPING SETS ((bank), (keeper_id))) x;
SELECT COUNT(*) FROM (SELECT bank, COUNT(*) AS n FROM station GROUP BY ALL) x;
SELECT *, 1 AS n FROM station ORDER BY id;
SELECT *, s.id AS sid FROM (SELECT id, river_id FROM station) s JOIN (SELECT id AS rid FROM river) r ON rid = s.river_id ORDER BY s.id;
SELECT s.name, * FROM station s ORDER BY s.id;
SELECT s.*, 1 AS n FROM station s ORDER BY id;
SELECT COUNT(*) FILTER (WHERE river_id IS NULL) FROM station;
SELECT COUNT(*) FROM (SELECT DISTINCT ON (capacity) capacity, id FROM station ORDER BY capacity, id) x;
SELECT COUNT(*) FROM (SELECT id FROM station QUALIFY ROW_NUMBER() OVER (PARTITION BY river_id ORDER BY id) = 1) x;
SELECT MAX(n) FROM (SELECT ROW_NUMBER() OVER (PARTITION BY river_id ORDER BY id) AS n FROM station) x;
SELECT MAX(n) FROM (SELECT SUM(capacity) OVER (ORDER BY id) AS n FROM station) x;
SELECT COUNT(*) FROM (SELECT bank, COUNT(*) AS n FROM station GROUP BY 1) x;
SELECT COUNT(*) FROM (SELECT bank AS b, COUNT(*) AS n FROM station GROUP BY b) x;
SELECT COUNT(*) FROM (SELECT bank, COUNT(*) AS n FROM station GROUP BY bank HAVING n > 1) x;
SELECT COUNT(*) FROM (SELECT r.id, r.name, COUNT(*) AS n FROM river r JOIN station s ON s.river_id = r.id GROUP BY r.id) x;
SELECT COUNT(*) FROM (SELECT capacity AS c FROM station WHERE c > 10) x;
SELECT MAX(d) FROM (SELECT capacity AS c, c + 1 AS d FROM station) x;

-- ---- rows and columns
SELECT COUNT(*) FROM (SELECT id FROM station ORDER BY id LIMIT 2, 3) x;
SELECT COUNT(*) FROM (SELECT id FROM station ORDER BY id LIMIT 3 OFFSET 2) x;
SELECT COUNT(*) FROM (SELECT id FROM station ORDER BY id OFFSET 2 LIMIT 3) x;
SELECT COUNT(*) FROM (SELECT id FROM station ORDER BY id OFFSET 2 ROWS FETCH FIRST 3 ROWS ONLY) x;
SELECT COUNT(*) FROM (SELECT id FROM station ORDER BY id FETCH FIRST 3 ROWS ONLY) x;
SELECT COUNT(*) FROM (SELECT id FROM station ORDER BY id OFFSET 2 ROWS FETCH NEXT 3 ROWS ONLY) x;
SELECT COUNT(*) FROM (SELECT id FROM station ORDER BY bank FETCH FIRST 3 ROWS WITH TIES) x;
SELECT COUNT(*) FROM (SELECT TOP 3 id FROM station ORDER BY id) x;
SELECT COUNT(*) FROM (SELECT * EXCLUDE (id) FROM station) x;
SELECT 1;
SELECT id FROM station ORDER BY river_id, id LIMIT 1;
SELECT id FROM station ORDER BY river_id DESC, id LIMIT 1;
SELECT id FROM station ORDER BY river_id NULLS FIRST, id LIMIT 1;
SELECT id FROM station ORDER BY river_id DESC NULLS LAST, id LIMIT 1;
SELECT id FROM station ORDER BY capacity DESC, id LIMIT 1;
SELECT id FROM station WHERE id < 9 ORDER BY id LIMIT 1;

-- ---- signs and comparisons
SELECT 7 / 2 FROM river WHERE id = 1;
SELECT capacity / 8 FROM station WHERE id = 1;
SELECT SUM(id) / COUNT(*) FROM station WHERE id < 5;
SELECT length_km / 2.5 FROM river WHERE id = 1;
SELECT 7 % 4 FROM river WHERE id = 1;
SELECT MOD(7, 4) FROM river WHERE id = 1;
SELECT 7 // 2 FROM river WHERE id = 1;
SELECT 7 DIV 2 FROM river WHERE id = 1;
SELECT 2 ** 3 FROM river WHERE id = 1;
SELECT 2 ^ 3 FROM river WHERE id = 1;
SELECT name || '!' FROM river WHERE id = 1;
SELECT 'a' || bank FROM station WHERE id = 1;
SELECT COUNT(*) FROM station WHERE keeper_id IS DISTINCT FROM 1;
SELECT COUNT(*) FROM station WHERE keeper_id IS NOT DISTINCT FROM 1;
SELECT COUNT(*) FROM station WHERE NOT (keeper_id <=> 1);
SELECT COUNT(*) FROM station WHERE name ILIKE 'mill%';
SELECT COUNT(*) FROM station WHERE name LIKE 'mill%';
SELECT COUNT(*) FROM station WHERE id == 1;
SELECT COUNT(*) FROM station WHERE id != 1;
SELECT COUNT(*) FROM station WHERE (river_id, keeper_id) IN (SELECT 1, 1 FROM river);
SELECT COUNT(*) FROM station WHERE river_id > ALL (SELECT 1 FROM river);
SELECT COUNT(*) FROM station WHERE name REGEXP '^M';
SELECT COUNT(*) FROM station WHERE name SIMILAR TO 'M%';
SELECT COUNT(*) FROM station WHERE name LIKE '!%%' ESCAPE '!';
SELECT COUNT(*) FROM station WHERE keeper_id IS NOT 1;
SELECT COUNT(*) FROM station WHERE id BETWEEN 2 AND 4;
SELECT COUNT(*) FROM station WHERE id BETWEEN SYMMETRIC 4 AND 2;
SELECT COUNT(*) FROM station WHERE (id > 3) IS TRUE;
SELECT COUNT(*) FROM station WHERE (river_id > 3) IS NOT UNKNOWN;
SELECT COUNT(*) FROM station WHERE (id, capacity) < (3, 4);
SELECT COUNT(*) FROM station WHERE id = ANY (SELECT id FROM river);
SELECT COUNT(*) FROM station WHERE name GLOB 'M*';

-- ---- values and types
SELECT CAST('12' AS INTEGER) FROM river WHERE id = 1;
SELECT CAST('12' AS BIGINT) FROM river WHERE id = 1;
SELECT CAST(12 AS VARCHAR(5)) FROM river WHERE id = 1;
SELECT CAST(12 AS CHAR(2)) FROM river WHERE id = 1;
SELECT CAST(12 AS VARCHAR) FROM river WHERE id = 1;
SELECT CAST(12 AS TEXT) FROM river WHERE id = 1;
SELECT CAST(12 AS DOUBLE PRECISION) FROM river WHERE id = 1;
SELECT CAST(12 AS DOUBLE) FROM river WHERE id = 1;
SELECT CAST(12 AS REAL) FROM river WHERE id = 1;
SELECT CAST(12.34 AS DECIMAL(5, 1)) FROM river WHERE id = 1;
SELECT CAST(12.34 AS NUMERIC(5, 1)) FROM river WHERE id = 1;
SELECT CAST(12 AS SIGNED) FROM river WHERE id = 1;
SELECT CAST(12 AS INT) FROM river WHERE id = 1;
SELECT CAST(12 AS SMALLINT) FROM river WHERE id = 1;
SELECT COUNT(CAST(seen_on AS DATE)) FROM sighting;
SELECT COUNT(CAST(seen_on AS TIMESTAMP)) FROM sighting;
SELECT COUNT(CAST(seen_on AS DATETIME)) FROM sighting;
SELECT CAST(1 AS BOOLEAN) FROM river WHERE id = 1;
SELECT '12'::INTEGER FROM river WHERE id = 1;
SELECT TRY_CAST('x' AS INTEGER) FROM river WHERE id = 1;
SELECT COUNT(*) FROM sighting WHERE seen_on = DATE '2026-04-02';
SELECT COUNT(*) FROM sighting WHERE seen_on >= '2026-04-02';
SELECT COUNT(*) FROM sighting WHERE seen_on > DATE '2026-04-02' + INTERVAL '1' DAY;
SELECT COUNT(*) FROM sighting WHERE seen_on > seen_on + INTERVAL '1 day';
SELECT COUNT(*) FROM sighting WHERE seen_on > seen_on - INTERVAL 1 DAY;
SELECT MAX(seen_on + 30) FROM sighting;
SELECT hi - lo FROM (SELECT MAX(seen_on) AS hi, MIN(seen_on) AS lo FROM sighting) x;
SELECT COUNT(*) FROM station WHERE TRUE;
SELECT COUNT(*) FROM station WHERE (id > 1) = TRUE;

-- ---- functions
SELECT COALESCE(NULL, 'a') FROM river WHERE id = 1;
SELECT IFNULL(flows_into, 0) FROM river WHERE id = 1;
SELECT NVL(flows_into, 0) FROM river WHERE id = 1;
SELECT IF(id = 1, 'a', 'b') FROM river WHERE id = 1;
SELECT IIF(id = 1, 'a', 'b') FROM river WHERE id = 1;
SELECT CONCAT('a', NULL, 'b') FROM river WHERE id = 1;
SELECT CONCAT(name, '!') FROM river WHERE id = 1;
SELECT CONCAT_WS('-', 'a', NULL, 'b') FROM river WHERE id = 1;
SELECT LENGTH(name) FROM river WHERE id = 1;
SELECT LEN(name) FROM river WHERE id = 1;
SELECT CHAR_LENGTH(name) FROM river WHERE id = 1;
SELECT LENGTH('é') FROM river WHERE id = 1;
SELECT SUBSTRING(name, 1, 2) FROM river WHERE id = 1;
SELECT SUBSTRING(name FROM 1 FOR 2) FROM river WHERE id = 1;
SELECT SUBSTR(name, 1, 2) FROM river WHERE id = 1;
SELECT LEFT(name, 2) FROM river WHERE id = 1;
SELECT POSITION('a' IN name) FROM river WHERE id = 1;
SELECT INSTR(name, 'a') FROM river WHERE id = 1;
SELECT STRPOS(name, 'a') FROM river WHERE id = 1;
SELECT LPAD('a', 3, '.') FROM river WHERE id = 1;
SELECT REPLACE(name, 'a', 'b') FROM river WHERE id = 1;
SELECT TRIM(name) FROM river WHERE id = 1;
SELECT UPPER(name) FROM river WHERE id = 1;
SELECT UCASE(name) FROM river WHERE id = 1;
SELECT INITCAP('ab') FROM river WHERE id = 1;
SELECT ROUND(2.345, 1) > 2.2 FROM river WHERE id = 1;
SELECT GREATEST(1, 2) FROM river WHERE id = 1;
SELECT GREATEST(1, NULL) FROM river WHERE id = 1;
SELECT LEAST(1, NULL) FROM river WHERE id = 1;
SELECT GROUP_CONCAT(id) FROM river WHERE id = 1;
SELECT GROUP_CONCAT(name SEPARATOR '-') FROM river WHERE id < 3;
SELECT GROUP_CONCAT(name, '-') FROM river WHERE id < 3;
SELECT GROUP_CONCAT(name ORDER BY id DESC) FROM river WHERE id < 3;
SELECT STRING_AGG(name, '-' ORDER BY id) FROM river WHERE id < 3;
SELECT LISTAGG(name, '-') WITHIN GROUP (ORDER BY id) FROM river WHERE id < 3;
SELECT STRING_AGG(name, ',') FROM river WHERE id = 1;
SELECT LOG(10) > 2 FROM river WHERE id = 1;
SELECT LN(1) FROM river WHERE id = 1;
SELECT POWER(2, 3) FROM river WHERE id = 1;
SELECT NULLIF(1, 1) FROM river WHERE id = 1;
SELECT ABS(-1) FROM river WHERE id = 1;
SELECT LOWER(name) FROM river WHERE id = 1;
SELECT SUM(DISTINCT capacity) > 1 FROM station;
SELECT COUNT(DISTINCT bank) FROM station;
SELECT COUNT(DISTINCT bank, keeper_id) FROM station;
SELECT COUNT(DISTINCT (bank, keeper_id)) FROM station;
SELECT LISTAGG(name, ',') FROM river WHERE id = 1;
SELECT AVG(n) FROM (SELECT 1 AS n FROM river WHERE id = 1 UNION ALL SELECT 2 AS n FROM river WHERE id = 1) x;
SELECT YEAR(seen_on) FROM sighting WHERE station_id = 1 ORDER BY 1 LIMIT 1;
SELECT EXTRACT(YEAR FROM MIN(seen_on)) FROM sighting;
SELECT COUNT(DATE_TRUNC('month', seen_on)) FROM sighting;
SELECT COUNT(DATEDIFF(seen_on, seen_on)) FROM sighting;
SELECT COUNT(STRFTIME('%Y', seen_on)) FROM sighting;
SELECT COUNT(TO_CHAR(seen_on, 'YYYY')) FROM sighting;
SELECT COUNT(DATE_FORMAT(seen_on, '%Y')) FROM sighting;
SELECT COUNT(NOW()) FROM river;
SELECT COUNT(CURRENT_DATE) FROM river;
SELECT COUNT(CURRENT_TIMESTAMP) FROM river;
SELECT COUNT(CURDATE()) FROM river;
SELECT ROW_NUMBER() OVER () FROM river WHERE id = 1;
SELECT MEDIAN(capacity) > 0 FROM station;
SELECT STDDEV_SAMP(capacity) > 0 FROM station;
SELECT BOOL_OR(id = 1) FROM station;
SELECT ANY_VALUE(id) FROM station WHERE id = 1;
SELECT MAX(id) FROM station;

-- ---- names and texts
SELECT COUNT(*) FROM "station";
SELECT COUNT(*) FROM "STATION";
SELECT COUNT(*) FROM STATION;
SELECT COUNT(*) FROM Station S;
SELECT MAX("capacity") FROM station;
SELECT MAX("Capacity") FROM station;
SELECT COUNT(`capacity`) FROM station;
SELECT MAX([capacity]) FROM station;
SELECT COUNT(*) FROM station WHERE name <> "x";
SELECT n FROM (SELECT id AS "n" FROM river WHERE id = 1) x;
SELECT COUNT(*) FROM station # all of them
;
SELECT COUNT(*) FROM station --all of them
;
SELECT E'a\tb' FROM river WHERE id = 1;
SELECT $$a$$ FROM river WHERE id = 1;
SELECT 'a\nb' FROM river WHERE id = 1;
SELECT 1_000 FROM river WHERE id = 1;
SELECT 0x10 FROM river WHERE id = 1;

-- ---- texts beside other types
SELECT COUNT(*) FROM station WHERE id = '3';
SELECT COUNT(*) FROM sighting WHERE seen_on BETWEEN '2026-04-02' AND '2026-04-03';
