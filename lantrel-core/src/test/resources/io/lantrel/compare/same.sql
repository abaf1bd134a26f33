-- Pairs of forms that give the same rows for all data that keep the constraints of the river watch.
-- What stands behind "not proven:" is not seen yet.

-- a comma and an explicit join
SELECT s.name, r.name FROM station s, river r WHERE r.id = s.river_id;
SELECT s.name, r.name FROM station s JOIN river r ON r.id = s.river_id;
-- a cross join and a condition
SELECT s.name, r.name FROM station s CROSS JOIN river r WHERE s.river_id = r.id;
SELECT s.name, r.name FROM station s JOIN river r ON r.id = s.river_id;
-- RIGHT turned round
SELECT s.name, r.name FROM station s RIGHT JOIN river r ON r.id = s.river_id;
SELECT s.name, r.name FROM river r LEFT JOIN station s ON r.id = s.river_id;
-- order of inner joins
SELECT r.name, s.name, g.depth_cm FROM river r JOIN station s ON s.river_id = r.id JOIN reading g ON g.station_id = s.id;
SELECT r.name, s.name, g.depth_cm FROM reading g JOIN station s ON g.station_id = s.id JOIN river r ON s.river_id = r.id;
-- inner joins in parentheses
SELECT r.name, g.depth_cm FROM river r JOIN (station s JOIN reading g ON g.station_id = s.id) ON s.river_id = r.id;
SELECT r.name, g.depth_cm FROM river r JOIN station s ON s.river_id = r.id JOIN reading g ON g.station_id = s.id;
-- other aliases
SELECT a.name FROM station a JOIN river b ON b.id = a.river_id WHERE b.length_km > 50;
SELECT station.name FROM station JOIN river ON river.id = station.river_id WHERE river.length_km > 50;
-- sides of comparisons turned round
SELECT name FROM river WHERE length_km > 50 AND 3 < flow;
SELECT name FROM river WHERE flow > 3 AND 50 < length_km;
-- BETWEEN
SELECT name FROM river WHERE length_km BETWEEN 20 AND 60;
SELECT name FROM river WHERE length_km >= 20 AND length_km <= 60;
-- NOT BETWEEN
SELECT name FROM river WHERE length_km NOT BETWEEN 20 AND 60;
SELECT name FROM river WHERE length_km < 20 OR length_km > 60;
-- IN and OR
SELECT name FROM station WHERE bank IN ('R', 'S');
SELECT name FROM station WHERE bank = 'R' OR bank = 'S';
-- NOT over AND
SELECT name FROM river WHERE NOT (length_km > 50 AND flow > 3);
SELECT name FROM river WHERE length_km <= 50 OR flow <= 3;
-- a condition of an inner join in ON and in WHERE
SELECT s.name FROM station s JOIN river r ON r.id = s.river_id AND r.length_km > 50;
SELECT s.name FROM station s JOIN river r ON r.id = s.river_id WHERE r.length_km > 50;
-- an outer join that WHERE cancels
SELECT s.name, r.name FROM station s LEFT JOIN river r ON r.id = s.river_id WHERE r.length_km > 50;
SELECT s.name, r.name FROM station s JOIN river r ON r.id = s.river_id WHERE r.length_km > 50;
-- an outer join that a later join cancels
SELECT g.depth_cm FROM reading g LEFT JOIN station s ON s.id = g.station_id JOIN river r ON r.id = s.river_id;
SELECT g.depth_cm FROM reading g JOIN station s ON s.id = g.station_id JOIN river r ON r.id = s.river_id;
-- an outer join cancelled by IS NOT NULL
SELECT s.name, w.family_name FROM station s LEFT JOIN warden w ON w.id = s.keeper_id WHERE w.id IS NOT NULL;
SELECT s.name, w.family_name FROM station s JOIN warden w ON w.id = s.keeper_id;
-- order of outer joins
SELECT s.name, r.name, w.family_name FROM station s LEFT JOIN river r ON r.id = s.river_id LEFT JOIN warden w ON w.id = s.keeper_id;
SELECT s.name, r.name, w.family_name FROM station s LEFT JOIN warden w ON w.id = s.keeper_id LEFT JOIN river r ON r.id = s.river_id;
-- an outer join before and behind an inner one
SELECT s.name, r.name, w.family_name FROM station s LEFT JOIN warden w ON w.id = s.keeper_id JOIN river r ON r.id = s.river_id;
SELECT s.name, r.name, w.family_name FROM station s JOIN river r ON r.id = s.river_id LEFT JOIN warden w ON w.id = s.keeper_id;
-- a chain of outer joins and one in parentheses
SELECT w.family_name, s.name, r.name FROM warden w LEFT JOIN station s ON s.keeper_id = w.id LEFT JOIN river r ON r.id = s.river_id;
SELECT w.family_name, s.name, r.name FROM warden w LEFT JOIN (station s LEFT JOIN river r ON r.id = s.river_id) ON s.keeper_id = w.id;
-- a condition of the optional table in ON and in a query of FROM
SELECT r.name, s.name FROM river r LEFT JOIN station s ON s.river_id = r.id AND s.capacity > 3;
SELECT r.name, s.name FROM river r LEFT JOIN (SELECT river_id, name FROM station WHERE capacity > 3) s ON s.river_id = r.id;
-- a query in FROM and its table
SELECT x.name FROM (SELECT id, name, river_id FROM station WHERE capacity > 3) x JOIN river r ON r.id = x.river_id;
SELECT s.name FROM station s JOIN river r ON r.id = s.river_id WHERE s.capacity > 3;
-- WITH and a query in FROM
WITH big AS (SELECT id, name FROM river WHERE length_km > 50) SELECT s.name, b.name FROM station s JOIN big b ON b.id = s.river_id;
SELECT s.name, b.name FROM station s JOIN (SELECT id, name FROM river WHERE length_km > 50) b ON b.id = s.river_id;
-- WITH of groups and a query in FROM
WITH n AS (SELECT river_id, COUNT(*) AS c FROM station GROUP BY river_id) SELECT r.name, n.c FROM river r JOIN n ON n.river_id = r.id;
SELECT r.name, n.c FROM (SELECT river_id, COUNT(*) AS c FROM station GROUP BY river_id) n JOIN river r ON n.river_id = r.id;
-- IN and EXISTS
SELECT r.name FROM river r WHERE r.id IN (SELECT s.river_id FROM station s WHERE s.capacity > 3);
SELECT r.name FROM river r WHERE EXISTS (SELECT 1 FROM station s WHERE s.river_id = r.id AND s.capacity > 3);
-- IN over a join and EXISTS
SELECT w.family_name FROM warden w WHERE w.id IN (SELECT s.keeper_id FROM station s JOIN river r ON r.id = s.river_id WHERE r.flow > 3);
SELECT w.family_name FROM warden w WHERE EXISTS (SELECT * FROM river r JOIN station s ON s.river_id = r.id WHERE s.keeper_id = w.id AND r.flow > 3);
-- EXISTS of a row referred to and a join
SELECT s.name FROM station s WHERE EXISTS (SELECT 1 FROM river r WHERE r.id = s.river_id AND r.length_km > 50);
SELECT s.name FROM station s JOIN river r ON r.id = s.river_id WHERE r.length_km > 50;
-- IN of a row referred to and a join
SELECT s.name FROM station s WHERE s.river_id IN (SELECT id FROM river WHERE length_km > 50);
SELECT s.name FROM station s JOIN river r ON r.id = s.river_id WHERE r.length_km > 50;
-- DISTINCT over a join and EXISTS
SELECT DISTINCT r.id, r.name FROM river r JOIN station s ON s.river_id = r.id;
SELECT r.id, r.name FROM river r WHERE EXISTS (SELECT 1 FROM station s WHERE s.river_id = r.id);
-- DISTINCT over a join and IN
SELECT DISTINCT w.id, w.family_name FROM warden w JOIN station s ON s.keeper_id = w.id WHERE s.capacity > 3;
SELECT w.id, w.family_name FROM warden w WHERE w.id IN (SELECT keeper_id FROM station WHERE capacity > 3);
-- NOT IN and NOT EXISTS of columns that are never NULL
SELECT s.name FROM station s WHERE s.id NOT IN (SELECT g.station_id FROM reading g);
SELECT s.name FROM station s WHERE NOT EXISTS (SELECT 1 FROM reading g WHERE g.station_id = s.id);
-- NOT IN without NULL
SELECT r.name FROM river r WHERE r.id NOT IN (SELECT s.river_id FROM station s WHERE s.river_id IS NOT NULL);
SELECT r.name FROM river r WHERE NOT EXISTS (SELECT 1 FROM station s WHERE s.river_id = r.id);
-- NOT EXISTS and LEFT JOIN with IS NULL
SELECT s.name FROM station s WHERE NOT EXISTS (SELECT 1 FROM reading g WHERE g.station_id = s.id);
SELECT s.name FROM station s LEFT JOIN reading g ON g.station_id = s.id WHERE g.id IS NULL;
-- an optional table of which nothing is used
SELECT s.name FROM station s LEFT JOIN river r ON r.id = s.river_id;
SELECT s.name FROM station s;
-- an optional table under DISTINCT
SELECT DISTINCT r.id FROM river r LEFT JOIN station s ON s.river_id = r.id;
SELECT r.id FROM river r;
-- a table that every row refers to, of which nothing is used
SELECT g.depth_cm FROM reading g JOIN station s ON s.id = g.station_id;
SELECT g.depth_cm FROM reading g;
-- the same where the reference may be empty
SELECT s.name FROM station s JOIN river r ON r.id = s.river_id;
SELECT s.name FROM station s WHERE s.river_id IS NOT NULL;
-- the key in place of the reference
SELECT s.id, COUNT(*) FROM station s JOIN reading g ON g.station_id = s.id GROUP BY s.id;
SELECT g.station_id, COUNT(*) FROM reading g GROUP BY g.station_id;
-- a table in the middle
SELECT r.name, p.species_id FROM sighting p JOIN station s ON s.id = p.station_id JOIN river r ON r.id = s.river_id JOIN species x ON x.id = p.species_id;
SELECT r.name, p.species_id FROM river r JOIN station s ON r.id = s.river_id JOIN sighting p ON s.id = p.station_id;
-- columns that are equal
SELECT g.station_id FROM reading g JOIN station s ON s.id = g.station_id WHERE s.capacity > 3;
SELECT s.id FROM reading g JOIN station s ON s.id = g.station_id WHERE s.capacity > 3;
-- a constant handed on
SELECT g.depth_cm FROM reading g JOIN station s ON s.id = g.station_id WHERE s.id = 4 AND s.capacity > 0;
SELECT g.depth_cm FROM reading g JOIN station s ON s.id = g.station_id WHERE g.station_id = 4 AND s.capacity > 0;
-- equality handed on
SELECT a.depth_cm FROM reading a JOIN sighting b ON b.station_id = a.station_id JOIN station s ON s.id = a.station_id WHERE s.capacity > 1;
SELECT a.depth_cm FROM reading a JOIN station s ON s.id = a.station_id JOIN sighting b ON b.station_id = s.id WHERE s.capacity > 1;
-- DISTINCT over a key
SELECT DISTINCT s.id, s.name FROM station s;
SELECT s.id, s.name FROM station s;
-- DISTINCT over the key of a table whose rows are not repeated
SELECT DISTINCT s.id, r.name FROM station s LEFT JOIN river r ON r.id = s.river_id;
SELECT s.id, r.name FROM station s LEFT JOIN river r ON r.id = s.river_id;
-- DISTINCT and GROUP BY
SELECT DISTINCT s.river_id, s.bank FROM station s;
SELECT s.river_id, s.bank FROM station s GROUP BY s.river_id, s.bank;
-- GROUP BY with what the key tells
SELECT r.id, COUNT(*) FROM river r JOIN station s ON s.river_id = r.id GROUP BY r.id, r.name;
SELECT r.id, COUNT(*) FROM river r JOIN station s ON s.river_id = r.id GROUP BY r.id;
-- counting rows
SELECT r.id, COUNT(*) FROM river r JOIN station s ON s.river_id = r.id GROUP BY r.id;
SELECT r.id, COUNT(s.id) FROM river r JOIN station s ON s.river_id = r.id GROUP BY r.id;
-- counting a constant
SELECT bank, COUNT(1) FROM station GROUP BY bank;
SELECT bank, COUNT(*) FROM station GROUP BY bank;
-- HAVING and WHERE
SELECT river_id, COUNT(*) FROM station GROUP BY river_id HAVING river_id > 3;
SELECT river_id, COUNT(*) FROM station WHERE river_id > 3 GROUP BY river_id;
-- USING and ON
SELECT a.depth_cm, b.head_count FROM reading a JOIN sighting b USING (station_id);
SELECT a.depth_cm, b.head_count FROM reading a JOIN sighting b ON b.station_id = a.station_id;
-- the merged column of USING
SELECT station_id, a.depth_cm FROM reading a LEFT JOIN sighting b USING (station_id);
SELECT a.station_id, a.depth_cm FROM reading a LEFT JOIN sighting b ON b.station_id = a.station_id;
-- a label and a place in GROUP BY
SELECT river_id AS r, COUNT(*) FROM station GROUP BY r;
SELECT river_id, COUNT(*) FROM station GROUP BY 1;
-- UNION in another order
SELECT name FROM river UNION SELECT name FROM station;
SELECT name FROM station UNION SELECT name FROM river;
-- UNION ALL in another order
SELECT name FROM river UNION ALL SELECT name FROM station;
SELECT name FROM station UNION ALL SELECT name FROM river;
-- DISTINCT within UNION
SELECT DISTINCT name FROM river UNION SELECT name FROM station;
SELECT name FROM river UNION SELECT name FROM station;
-- hierarchy written from either side
SELECT c.name, p.name FROM river c JOIN river p ON p.id = c.flows_into;
SELECT low.name, up.name FROM river up JOIN river low ON low.flows_into = up.id;
-- not proven: CASE and COALESCE
SELECT COALESCE(depth_cm, 0) FROM reading;
SELECT CASE WHEN depth_cm IS NULL THEN 0 ELSE depth_cm END FROM reading;
-- a test that is always true
SELECT name FROM river WHERE name IS NOT NULL AND 1 = 1;
SELECT name FROM river;
-- a condition written twice
SELECT name FROM river WHERE flow > 3 AND flow > 3;
SELECT name FROM river WHERE flow > 3;
-- a subquery for one value, written alike
SELECT r.name, (SELECT COUNT(*) FROM station s WHERE s.river_id = r.id) FROM river r;
SELECT r.name, (SELECT COUNT(*) FROM station x WHERE r.id = x.river_id) FROM river r;
-- not proven: a subquery for one value and a join of groups
SELECT r.name, (SELECT COUNT(*) FROM station s WHERE s.river_id = r.id) FROM river r;
SELECT r.name, COUNT(s.id) FROM river r LEFT JOIN station s ON s.river_id = r.id GROUP BY r.id, r.name;
-- a subquery for one value and an outer join
SELECT s.name, (SELECT r.name FROM river r WHERE r.id = s.river_id) FROM station s;
SELECT s.name, r.name FROM station s LEFT JOIN river r ON r.id = s.river_id;
-- an order that does not matter within FROM
SELECT x.name FROM (SELECT name, flow FROM river ORDER BY flow) x;
SELECT name FROM river;
-- EXISTS within EXISTS
SELECT r.name FROM river r WHERE EXISTS (SELECT 1 FROM station s WHERE s.river_id = r.id AND EXISTS (SELECT 1 FROM reading g WHERE g.station_id = s.id));
SELECT r.name FROM river r WHERE EXISTS (SELECT 1 FROM station s JOIN reading g ON g.station_id = s.id WHERE s.river_id = r.id);
