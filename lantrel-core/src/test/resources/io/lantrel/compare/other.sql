-- Pairs that look alike and differ on some data that keep the constraints, be it on none here.

-- an outer join and an inner one
SELECT s.name, r.name FROM station s LEFT JOIN river r ON r.id = s.river_id;
SELECT s.name, r.name FROM station s JOIN river r ON r.id = s.river_id;
-- a condition of the optional table in ON and in WHERE
SELECT r.name, s.name FROM river r LEFT JOIN station s ON s.river_id = r.id AND s.capacity > 3;
SELECT r.name, s.name FROM river r LEFT JOIN station s ON s.river_id = r.id WHERE s.capacity > 3;
-- a condition of the kept table in ON and in WHERE
SELECT r.name, s.name FROM river r LEFT JOIN station s ON s.river_id = r.id AND r.flow > 3;
SELECT r.name, s.name FROM river r LEFT JOIN station s ON s.river_id = r.id WHERE r.flow > 3;
-- a condition that takes the filled rows too
SELECT s.name FROM station s LEFT JOIN warden w ON w.id = s.keeper_id WHERE w.id IS NULL OR w.id > 2;
SELECT s.name FROM station s JOIN warden w ON w.id = s.keeper_id WHERE w.id > 2;
-- the same condition, which an inner join leaves nothing to
SELECT s.name FROM station s LEFT JOIN warden w ON w.id = s.keeper_id WHERE w.id IS NULL OR w.id > 2;
SELECT s.name FROM station s JOIN warden w ON w.id = s.keeper_id WHERE w.id IS NULL OR w.id > 2;
-- a condition of either table
SELECT s.name FROM station s LEFT JOIN warden w ON w.id = s.keeper_id WHERE s.capacity > 3 OR w.id > 2;
SELECT s.name FROM station s JOIN warden w ON w.id = s.keeper_id WHERE s.capacity > 3 OR w.id > 2;
-- COALESCE takes them too
SELECT s.name FROM station s LEFT JOIN warden w ON w.id = s.keeper_id WHERE COALESCE(w.id, 5) > 2;
SELECT s.name FROM station s JOIN warden w ON w.id = s.keeper_id WHERE COALESCE(w.id, 5) > 2;
-- children repeat
SELECT r.name FROM river r JOIN station s ON s.river_id = r.id;
SELECT r.name FROM river r WHERE EXISTS (SELECT 1 FROM station s WHERE s.river_id = r.id);
-- children left out
SELECT r.name FROM river r LEFT JOIN station s ON s.river_id = r.id;
SELECT r.name FROM river r;
-- a needless table whose reference may be empty
SELECT s.name FROM station s JOIN river r ON r.id = s.river_id;
SELECT s.name FROM station s;
-- a needed table whose condition goes
SELECT g.depth_cm FROM reading g JOIN station s ON s.id = g.station_id AND s.capacity > 0;
SELECT g.depth_cm FROM reading g;
-- NOT IN with a column that may be NULL
SELECT r.name FROM river r WHERE r.id NOT IN (SELECT s.river_id FROM station s);
SELECT r.name FROM river r WHERE NOT EXISTS (SELECT 1 FROM station s WHERE s.river_id = r.id);
-- counting a column that may be NULL
SELECT bank, COUNT(keeper_id) FROM station GROUP BY bank;
SELECT bank, COUNT(*) FROM station GROUP BY bank;
-- counting filled rows
SELECT r.id, COUNT(*) FROM river r LEFT JOIN station s ON s.river_id = r.id GROUP BY r.id;
SELECT r.id, COUNT(s.id) FROM river r LEFT JOIN station s ON s.river_id = r.id GROUP BY r.id;
-- DISTINCT over a name
SELECT DISTINCT name FROM river;
SELECT name FROM river;
-- DISTINCT over a key that a join repeats
SELECT DISTINCT r.id FROM river r JOIN station s ON s.river_id = r.id;
SELECT r.id FROM river r JOIN station s ON s.river_id = r.id;
-- groups by a name and by a key
SELECT r.name, COUNT(*) FROM river r JOIN station s ON s.river_id = r.id GROUP BY r.name;
SELECT r.name, COUNT(*) FROM river r JOIN station s ON s.river_id = r.id GROUP BY r.id, r.name;
-- HAVING over an aggregate
SELECT river_id, COUNT(*) FROM station GROUP BY river_id HAVING COUNT(*) > 1;
SELECT river_id, COUNT(*) FROM station GROUP BY river_id;
-- BETWEEN the wrong way round
SELECT name FROM river WHERE length_km BETWEEN 60 AND 20;
SELECT name FROM river WHERE length_km BETWEEN 20 AND 60;
-- the border counts
SELECT name FROM river WHERE length_km > 96;
SELECT name FROM river WHERE length_km >= 96;
-- NOT over OR
SELECT name FROM station WHERE NOT (bank = 'R' OR bank IS NULL);
SELECT name FROM station WHERE NOT bank = 'R' OR bank IS NOT NULL;
-- UNION and UNION ALL
SELECT name FROM river UNION SELECT name FROM station;
SELECT name FROM river UNION ALL SELECT name FROM station;
-- EXCEPT the other way round
SELECT river_id FROM station EXCEPT SELECT id FROM river;
SELECT id FROM river EXCEPT SELECT river_id FROM station;
-- the parent and the child
SELECT c.name, p.name FROM river c JOIN river p ON p.id = c.flows_into;
SELECT p.name, c.name FROM river c JOIN river p ON p.id = c.flows_into;
-- a self-join backwards
SELECT c.name FROM river c JOIN river p ON p.id = c.flows_into;
SELECT c.name FROM river c JOIN river p ON c.id = p.flows_into;
-- two roles of one table
SELECT w.family_name, m.family_name FROM warden w JOIN warden m ON m.id = w.mentor_id WHERE w.id > 3;
SELECT w.family_name, m.family_name FROM warden w JOIN warden m ON m.id = w.mentor_id WHERE m.id > 3;
-- outer joins in a chain whose order matters
SELECT w.id, s.id, r.id FROM warden w LEFT JOIN station s ON s.keeper_id = w.id LEFT JOIN river r ON r.id = s.river_id;
SELECT w.id, s.id, r.id FROM warden w LEFT JOIN (station s JOIN river r ON r.id = s.river_id) ON s.keeper_id = w.id;
-- a later condition that does not need the optional row
SELECT w.id, r.id FROM warden w LEFT JOIN station s ON s.keeper_id = w.id LEFT JOIN river r ON r.id = s.river_id OR s.id IS NULL;
SELECT w.id, r.id FROM warden w LEFT JOIN (station s LEFT JOIN river r ON r.id = s.river_id OR s.id IS NULL) ON s.keeper_id = w.id;
-- columns that need not be equal
SELECT a.station_id FROM reading a LEFT JOIN sighting b ON b.station_id = a.station_id;
SELECT b.station_id FROM reading a LEFT JOIN sighting b ON b.station_id = a.station_id;
-- a sum of different rows
SELECT SUM(DISTINCT capacity) FROM station;
SELECT SUM(capacity) FROM station;
-- the condition of another table
SELECT s.name FROM station s JOIN river r ON r.id = s.river_id WHERE r.id > 3;
SELECT s.name FROM station s JOIN river r ON r.id = s.river_id WHERE s.id > 3;
-- a test of NULL that is not always true
SELECT name FROM station WHERE keeper_id IS NOT NULL;
SELECT name FROM station;
-- EXISTS without its link
SELECT r.name FROM river r WHERE EXISTS (SELECT 1 FROM station s);
SELECT r.name FROM river r WHERE EXISTS (SELECT 1 FROM station s WHERE s.river_id = r.id);
-- rows without a partner, of which more is asked
SELECT r.name FROM river r ANTI JOIN station s ON s.river_id = r.id;
SELECT r.name FROM river r ANTI JOIN station s ON s.river_id = r.id AND s.capacity > 9;
-- rows with a partner and rows without
SELECT r.name FROM river r SEMI JOIN station s ON s.river_id = r.id;
SELECT r.name FROM river r ANTI JOIN station s ON s.river_id = r.id;
-- the nearest partner and any
SELECT r.name FROM river r ASOF JOIN station s ON r.id >= s.river_id;
SELECT r.name FROM river r JOIN station s ON r.id >= s.river_id;
-- EXCEPT ALL counts, also where its result is a set
SELECT id FROM river WHERE id > 11 UNION (SELECT river_id FROM station EXCEPT ALL SELECT id FROM river WHERE id = 1);
SELECT id FROM river WHERE id > 11 UNION (SELECT DISTINCT river_id FROM station EXCEPT ALL SELECT id FROM river WHERE id = 1);
-- a row by chance
SELECT name FROM river ORDER BY flow LIMIT 3;
SELECT name FROM river ORDER BY flow LIMIT 3;
-- a clock
SELECT name, random() FROM river;
SELECT name, random() FROM river;
