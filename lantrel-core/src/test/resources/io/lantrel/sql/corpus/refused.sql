-- Statements over the river watch that DuckDB refuses, each behind the kind of finding that says why.
-- unknown-table
SELECT * FROM nowhere;
SELECT s.id FROM station s JOIN nowhere n ON n.id = s.id;
SELECT id FROM station WHERE id IN (SELECT id FROM nowhere);
WITH a AS (SELECT id FROM nowhere) SELECT * FROM a;
WITH a AS (SELECT id FROM b), b AS (SELECT id FROM river) SELECT * FROM a;
SELECT (SELECT MAX(id) FROM nowhere);
SELECT id FROM station UNION SELECT id FROM nowhere;
SELECT x.id FROM station s;
SELECT s.id FROM station s WHERE x.id = 1;
SELECT x.* FROM station s;
SELECT s.id FROM station s ORDER BY x.id;
SELECT q.id FROM (SELECT s.id FROM station s) p;
SELECT s.id FROM (SELECT id FROM station s) q;
SELECT s.id FROM station s WHERE EXISTS (SELECT 1 FROM river r WHERE r.id = z.river_id);
WITH a AS (SELECT id FROM river) SELECT river.id FROM a;
SELECT COUNT(x.id) FROM station s;
SELECT a.id FROM (WITH a AS (SELECT 1 AS id) SELECT id FROM a) q;
SELECT r.id FROM river r WHERE r.id IN (SELECT s.id FROM station s) AND s.id = 1;
SELECT s.id FROM station s JOIN river r USING (id) JOIN warden w ON w.id = v.id;
-- unknown-column
SELECT nothing FROM station;
SELECT s.nothing FROM station s;
SELECT id FROM station WHERE nothing = 1;
SELECT id FROM station GROUP BY id, nothing;
SELECT id FROM station ORDER BY nothing;
SELECT id FROM station ORDER BY 2;
SELECT q.id FROM (SELECT id, name FROM station ORDER BY 1, 3 LIMIT 2) q;
SELECT s.id FROM station s JOIN river r ON r.nothing = s.river_id;
SELECT s.id FROM station s JOIN river r USING (nothing);
SELECT q.name FROM (SELECT id FROM station) q;
WITH a (x) AS (SELECT id FROM station) SELECT id FROM a;
SELECT t.c FROM (VALUES (1, 2)) t (a, b);
SELECT id FROM (SELECT id AS n FROM station) q;
SELECT COUNT(nothing) FROM station;
SELECT SUM(id) OVER (PARTITION BY nothing) FROM station;
SELECT CASE WHEN nothing THEN 1 END FROM station;
SELECT id FROM station s WHERE EXISTS (SELECT 1 FROM river r WHERE r.nothing = s.id);
SELECT id FROM station UNION SELECT nothing FROM river;
SELECT name FROM station UNION SELECT name FROM river ORDER BY flow;
WITH RECURSIVE n AS (SELECT 1 AS i UNION ALL SELECT j + 1 FROM n WHERE i < 5) SELECT i FROM n;
SELECT id FROM station HAVING nothing > 1;
SELECT "no such" FROM station;
SELECT q.a FROM (SELECT id FROM station) AS q (b);
SELECT id FROM station LIMIT nothing;
SELECT u.z FROM (SELECT 1 AS y) u;
SELECT SUM(id) OVER w FROM station WINDOW w AS (ORDER BY nothing);
SELECT s.name FROM station s, LATERAL (SELECT s.nothing) q;
SELECT id FROM river ANTI JOIN station USING (nothing);
-- ambiguous-column
SELECT id FROM station, river;
SELECT name FROM station s JOIN river r ON r.id = s.river_id;
SELECT s.id FROM station s JOIN river r ON r.id = s.river_id WHERE name = 'x';
SELECT s.id FROM station s JOIN river r ON id = river_id;
SELECT s.id FROM station s JOIN river r ON r.id = s.river_id GROUP BY s.id, name;
SELECT a.id FROM station a JOIN river b ON a.id = b.id JOIN warden c USING (id);
SELECT MAX(name) FROM station, river;
SELECT s.id FROM station s WHERE EXISTS (SELECT 1 FROM river a, river b WHERE name = s.name);
SELECT q.id FROM station q JOIN (SELECT id AS x FROM river) p ON x = id JOIN warden ON id = 1;
-- hidden-by-alias
SELECT station.name FROM station s;
SELECT s.name FROM station s WHERE station.id = 1;
SELECT s.name FROM station s JOIN river r ON river.id = s.river_id;
SELECT s.name FROM station s ORDER BY station.id;
SELECT s.name FROM station s WHERE EXISTS (SELECT 1 FROM river WHERE river.id = station.river_id);
-- repeated-alias
SELECT a.id FROM station a, river a;
SELECT * FROM station JOIN station ON TRUE;
-- not-visible-yet
SELECT s.id FROM station s JOIN river r ON r.id = w.id JOIN warden w ON w.id = s.keeper_id;
SELECT s.id FROM station s JOIN river r ON r.id = given_name JOIN warden w ON w.id = s.keeper_id;
-- ungrouped-column
SELECT s.bank, s.name FROM station s GROUP BY s.bank;
SELECT name, COUNT(*) FROM station;
SELECT bank, MAX(capacity) FROM station GROUP BY bank HAVING name = 'x';
SELECT bank FROM station GROUP BY bank ORDER BY name;
SELECT bank, capacity + 1 FROM station GROUP BY bank;
SELECT s.*, COUNT(*) FROM station s GROUP BY s.id;
SELECT UPPER(bank), LOWER(bank) FROM station GROUP BY UPPER(bank);
SELECT s.id, s.name FROM station s GROUP BY s.id;
SELECT bank, SUM(capacity) OVER () FROM station GROUP BY bank;
SELECT river_id, bank, COUNT(*) FROM station GROUP BY ROLLUP (river_id);
SELECT s.bank, (SELECT r.name FROM river r WHERE r.id = s.river_id) FROM station s GROUP BY s.bank;
SELECT bank, CASE WHEN capacity > 3 THEN 1 ELSE 0 END FROM station GROUP BY bank;
SELECT id FROM station HAVING COUNT(*) > 1;
WITH a AS (SELECT bank, name FROM station GROUP BY bank) SELECT * FROM a;
SELECT river_id, AVG(capacity) FROM station;
-- aggregate-in-where
SELECT bank FROM station WHERE COUNT(*) > 1 GROUP BY bank;
SELECT name FROM station WHERE capacity = MAX(capacity);
SELECT s.name FROM station s JOIN river r ON SUM(s.capacity) > r.flow;
SELECT COUNT(*) FROM station GROUP BY MAX(bank);
SELECT COUNT(SUM(id)) FROM station;
SELECT bank, SUM(MAX(capacity) + 1) FROM station GROUP BY bank;
SELECT bank FROM station GROUP BY bank HAVING MAX(COUNT(*)) > 2;
SELECT bank FROM station GROUP BY bank ORDER BY MAX(MIN(capacity));
SELECT COUNT(*) FILTER (WHERE MAX(capacity) > 3) FROM station;
SELECT name FROM station s WHERE s.id IN (SELECT d.station_id FROM reading d WHERE AVG(d.depth_cm) > 3);
