-- Claims that are so for all data that keep the constraints of the river watch.
-- What stands behind "not proven:" is so too, and is not seen yet.

-- proven: one row per station
-- proven: one row per id
-- proven: every station appears
-- proven: no null in id, name
-- proven: total of capacity is total of station.capacity
-- proven: total of capacity is total of s.capacity
-- proven: id refers to station
-- proven: river_id refers to river
SELECT s.id, s.name, s.capacity, s.river_id FROM station s;

-- proven: one row per s
-- proven: every station appears
-- proven: no null in station
-- proven: total of capacity is total of station.capacity
-- proven: one row per station.id
SELECT s.name AS station, r.name AS river, s.capacity FROM station s LEFT JOIN river r ON r.id = s.river_id;

-- proven: one row per station
-- proven: no null in river
-- proven: no null in s.river_id
-- proven: river_id refers to river
SELECT s.name, r.name AS river, s.river_id FROM station s JOIN river r ON r.id = s.river_id;

-- proven: one row per reading
-- proven: every reading appears
-- proven: no null in station
-- proven: station_id refers to station
-- proven: one row per g.id
SELECT g.id, s.name AS station, g.station_id FROM reading g JOIN station s ON s.id = g.station_id;

-- proven: one row per reading
-- proven: every reading appears
-- proven: total of depth_cm is total of reading.depth_cm
SELECT g.id, s.name, r.name, g.depth_cm FROM reading g JOIN station s ON s.id = g.station_id LEFT JOIN river r ON r.id = s.river_id;

-- proven: one row per station
-- proven: every station appears
-- proven: every reading appears
-- proven: total of n is number of reading
-- proven: total of depth is total of reading.depth_cm
-- proven: no null in n
-- proven: order by name
SELECT s.name, COUNT(g.id) AS n, SUM(g.depth_cm) AS depth FROM station s LEFT JOIN reading g ON g.station_id = s.id GROUP BY s.id, s.name ORDER BY s.name;

-- proven: one row per station
-- proven: every reading appears
-- proven: total of n is number of reading
-- proven: one row per id
-- proven: id refers to station
SELECT s.id, COUNT(*) AS n FROM station s JOIN reading g ON g.station_id = s.id GROUP BY s.id;

-- proven: one row per station_id
-- proven: one row per station
-- proven: total of n is number of reading
-- proven: station_id refers to station
-- proven: every reading appears
SELECT station_id, COUNT(*) AS n FROM reading GROUP BY station_id;

-- proven: every w appears
-- proven: one row per w
-- proven: no null in warden
SELECT w.given_name AS warden, m.given_name AS mentor FROM warden w LEFT JOIN warden m ON m.id = w.mentor_id;

-- proven: one row per w
-- proven: no null in mentor
-- proven: mentor_id refers to warden
SELECT w.given_name AS warden, m.given_name AS mentor, w.mentor_id FROM warden w JOIN warden m ON m.id = w.mentor_id;

-- proven: one row per sighting
-- proven: every sighting appears
-- proven: one row per station_id, species_id, seen_on
-- proven: total of head_count is total of sighting.head_count
-- proven: no null in species, head_count
-- proven: species_id refers to species
SELECT g.station_id, g.species_id, g.seen_on, p.name AS species, g.head_count FROM sighting g JOIN species p ON p.id = g.species_id;

-- proven: one row per sighting
-- proven: every sighting appears
SELECT s.name, p.name, g.seen_on FROM sighting g JOIN station s ON s.id = g.station_id JOIN species p ON p.id = g.species_id JOIN species_group b ON b.id = p.group_id;

-- proven: one row per p
-- proven: every p appears
-- proven: total of heads is total of sighting.head_count
-- proven: total of zeros is total of sighting.head_count
-- proven: no null in zeros
SELECT p.name, SUM(g.head_count) AS heads, COALESCE(SUM(g.head_count), 0) AS zeros FROM species p LEFT JOIN sighting g ON g.species_id = p.id GROUP BY p.id, p.name;

-- proven: 1 row
-- proven: at least 1 row
-- proven: at most 1 row
-- proven: at most 5 rows
-- proven: no null in n
-- proven: total of n is number of station
SELECT COUNT(*) AS n FROM station;

-- proven: at most 1 row
SELECT MAX(capacity) AS most FROM station HAVING MAX(capacity) > 10;

-- proven: at most 1 row
-- proven: no null in name
-- proven: id is one of 3
-- proven: id between 1 and 5
SELECT id, name FROM station WHERE id = 3;

-- proven: at most 5 rows
-- proven: order by capacity desc, name
-- proven: order by capacity desc
-- proven: one row per station
SELECT s.name, s.capacity FROM station s ORDER BY s.capacity DESC, s.name LIMIT 5;

-- proven: 3 rows
-- proven: at least 2 rows
VALUES (1, 'a'), (2, 'b'), (3, 'c');

-- proven: one row per bank
-- proven: one row per bank, bank
SELECT DISTINCT bank FROM station;

-- proven: one row per name, bank
SELECT DISTINCT name, bank FROM station;

-- proven: one row per name
SELECT name FROM station UNION SELECT name FROM river;

-- proven: one row per id
SELECT id FROM station EXCEPT SELECT station_id FROM reading;

-- proven: bank is one of 'R', 'S'
-- proven: no null in bank
-- proven: one row per station
-- proven: every station appears where bank IN ('R', 'S')
SELECT s.name, s.bank FROM station s WHERE s.bank IN ('R', 'S');

-- proven: every station appears where capacity > 3
-- proven: every s appears where s.capacity > 3
-- proven: total of capacity is total of station.capacity where capacity > 3
SELECT s.name, s.capacity FROM station s WHERE s.capacity > 3;

-- proven: every river appears where length_km > 50
-- proven: every river appears where length_km > 50 AND flow > 3
SELECT r.name, s.name FROM river r LEFT JOIN station s ON s.river_id = r.id WHERE r.length_km > 50;

-- proven: every river appears
-- proven: every r appears
SELECT r.name, s.name FROM station s RIGHT JOIN river r ON s.river_id = r.id;

-- proven: every river appears
-- proven: every station appears
SELECT r.name, s.name FROM station s FULL JOIN river r ON s.river_id = r.id;

-- proven: length_km between 20 and 60
SELECT name, length_km FROM river WHERE length_km BETWEEN 20 AND 60;

-- proven: size is one of 'small', 'large'
-- proven: no null in size
-- proven: one row per station
SELECT s.id, CASE WHEN s.capacity > 5 THEN 'large' ELSE 'small' END AS size FROM station s;

-- proven: one row per station
-- proven: every station appears
SELECT s.name, (SELECT COUNT(*) FROM reading g WHERE g.station_id = s.id) AS n FROM station s;

-- proven: one row per station
-- proven: no null in name
SELECT s.name FROM station s WHERE EXISTS (SELECT 1 FROM reading g WHERE g.station_id = s.id);

-- proven: one row per station
-- proven: every station appears
-- proven: one row per id
-- proven: no null in name
SELECT d.id, d.name FROM (SELECT s.id, s.name FROM station s) d;

-- proven: one row per station
-- proven: every s appears
SELECT s.name, d.n FROM station s LEFT JOIN (SELECT g.station_id, COUNT(*) AS n FROM reading g GROUP BY g.station_id) d ON d.station_id = s.id;

-- proven: one row per station
-- proven: every station appears
WITH per AS (SELECT g.station_id, MAX(g.depth_cm) AS deepest FROM reading g GROUP BY g.station_id)
SELECT s.name, per.deepest FROM station s LEFT JOIN per ON per.station_id = s.id;

-- proven: one row per station
-- proven: every station appears
WITH big AS (SELECT s.id, s.name FROM station s)
SELECT b.id, b.name FROM big b;

-- proven: one row per s
-- proven: no null in n
-- proven: at most 3 rows
SELECT s.name, COUNT(*) AS n FROM station s JOIN sighting g ON g.station_id = s.id GROUP BY s.id, s.name FETCH FIRST 3 ROWS ONLY;

-- proven: one row per s, r
SELECT s.name, r.name FROM station s CROSS JOIN river r;

-- proven: levels at most 3
WITH RECURSIVE up (id, name, level) AS (SELECT w.id, w.given_name, 1 FROM warden w WHERE w.mentor_id IS NULL UNION ALL SELECT w.id, w.given_name, u.level + 1 FROM warden w JOIN up u ON w.mentor_id = u.id WHERE u.level < 3)
SELECT id, name, level FROM up;

-- proven: one row per station
-- proven: every station appears
SELECT s.name, b.label FROM station s LEFT JOIN bank_kind b ON b.code = s.bank;

-- proven: one row per species
-- proven: every species appears
-- proven: no null in grouping_name
-- proven: group_id refers to species_group
SELECT p.name AS kind, b.name AS grouping_name, p.group_id FROM species p JOIN species_group b ON b.id = p.group_id;

-- proven: one row per reading
SELECT g.id FROM reading g, station s, river r WHERE g.station_id = s.id AND s.river_id = r.id;

-- proven: no null in name
-- not proven: one row per id
SELECT p.id, p.name FROM species p WHERE p.name IS NOT NULL UNION ALL SELECT b.id, b.name FROM species_group b WHERE b.id < 0;

-- not proven: total of n is number of reading
SELECT s.name, d.n FROM station s JOIN (SELECT g.station_id, COUNT(*) AS n FROM reading g GROUP BY g.station_id) d ON d.station_id = s.id;

-- proven: one row per reading
SELECT g.id FROM station s LEFT JOIN reading g ON g.station_id = s.id;

-- not proven: every reading appears
SELECT g.id FROM reading g WHERE g.id IS NOT NULL;
