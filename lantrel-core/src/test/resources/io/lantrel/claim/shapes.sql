-- Claims about queries of many shapes over the river watch as it is: where rows of a table are known through
-- queries in FROM, set operations, outer joins, groups, windows and limits, and where they are not.

-- proven: one row per station
-- proven: every station appears
-- proven: no null in name
-- proven: id refers to station
-- broken: no null in river_id => 1 of 14 rows has NULL in river_id
SELECT d.id, d.name, d.river_id FROM (SELECT s.id, s.name, s.river_id FROM station s) d;

-- proven: one row per station
-- broken: every station appears => 1 of 14 stations does not appear
-- proven: every station appears where capacity > 1
SELECT d.id, d.name FROM (SELECT s.id, s.name FROM station s WHERE s.capacity > 1) d;

-- proven: one row per station
-- holds: every station appears where river_id IS NOT NULL => all 13 stations
-- broken: every river appears => 2 of 12 rivers do not appear
-- proven: river refers to river
SELECT a.id, a.river FROM (SELECT s.id, r.id AS river FROM station s JOIN river r ON r.id = s.river_id) a;

-- proven: one row per station
-- proven: every station appears
-- holds: n between 0 and 4 => so is every n of 14 rows
-- broken: no null in n => 2 of 14 rows have NULL in n
WITH per AS (SELECT g.station_id, COUNT(*) AS n FROM reading g GROUP BY g.station_id)
SELECT s.id, per.n FROM station s LEFT JOIN per ON per.station_id = s.id;

-- proven: one row per station_id
-- broken: station_id refers to station => in 1 of 13 rows, station_id is no station
-- broken: every station appears => 2 of 14 stations do not appear
-- holds: total of n is number of reading => both totals are 27
WITH per AS (SELECT g.station_id, COUNT(*) AS n FROM reading g GROUP BY g.station_id)
SELECT p.station_id, p.n FROM per p;

-- proven: one row per id, name
-- holds: one row per name => 26 rows
-- holds: 26 rows
-- misspelt: one row per station => the query does not use station
-- misspelt: one row per nmae => near it is: name
SELECT s.id, s.name FROM station s UNION SELECT r.id, r.name FROM river r;

-- broken: one row per id => several rows
-- proven: no null in id
-- broken: no null in other => 12 of 26 rows have NULL in other
-- proven: order by id
SELECT s.id, s.capacity AS other FROM station s UNION ALL SELECT r.id, NULL FROM river r ORDER BY id;

-- proven: one row per id
-- proven: no null in id
-- holds: 3 rows
SELECT s.id FROM station s EXCEPT SELECT g.station_id FROM reading g WHERE g.id < 27 AND g.station_id <> 14;

-- proven: one row per w
-- broken: one row per m => 2 wardens have several rows
-- proven: every w appears
-- broken: every m appears => 4 of 10 wardens do not appear
-- broken: no null in mentor => 1 of 10 rows has NULL in mentor
-- proven: mentor_id refers to warden
-- misspelt: every warden appears => is used several times, as w and m
SELECT w.given_name, m.given_name AS mentor, w.mentor_id FROM warden w LEFT JOIN warden m ON m.id = w.mentor_id;

-- proven: every river appears
-- broken: every s appears => 1 of 14 stations does not appear; lost at step 2, RIGHT JOIN river r (1 row)
-- proven: one row per s
-- broken: one row per river => 3 rivers have several rows
SELECT s.name, r.name AS stream FROM station s RIGHT JOIN river r ON r.id = s.river_id;

-- proven: every river appears
-- proven: every station appears
-- proven: one row per station
-- broken: no null in stream => 1 of 16 rows has NULL in stream
SELECT s.name, r.name AS stream FROM station s FULL JOIN river r ON r.id = s.river_id;

-- proven: one row per reading
-- undecided: every sighting appears => the result does not tell which sighting
-- broken: one row per station_id => several rows
SELECT station_id, g.id FROM reading g JOIN station s ON s.id = g.station_id JOIN (SELECT DISTINCT station_id FROM sighting) h USING (station_id);

-- undecided: one row per s => the result does not tell which station a row is of
-- proven: one row per r
-- holds: every station appears where river_id IS NOT NULL => all 13 stations
-- misspelt: every reading appears => the query does not use reading
-- broken: total of seats is total of station.capacity => 1 too little; lost at step 2
SELECT r.name, SUM(s.capacity) AS seats FROM station s JOIN river r ON r.id = s.river_id GROUP BY r.id, r.name;

-- proven: one row per r
-- broken: every river appears => 7 of 12 rivers do not appear
-- undecided: every station appears => the result does not tell which station a row is of
-- broken: seats between 10 and 60 => 1 of 5 rows has another seats
SELECT r.id, SUM(s.capacity) AS seats FROM station s JOIN river r ON r.id = s.river_id GROUP BY r.id HAVING SUM(s.capacity) >= 9;

-- proven: 1 row
-- broken: total of seats is total of station.capacity => 12 too little; lost by WHERE (1 row)
-- proven: total of seats is total of station.capacity where id > 1
SELECT SUM(s.capacity) AS seats FROM station s WHERE s.id > 1;

-- proven: one row per station
-- proven: at most 3 rows
-- broken: every station appears => 11 of 14 stations do not appear
-- proven: order by capacity desc, name
-- broken: order by name => something else
SELECT s.name, s.capacity FROM station s ORDER BY s.capacity DESC, s.name LIMIT 3;

-- proven: one row per station
-- proven: no null in place
-- holds: one row per place => 14 rows
SELECT s.name, ROW_NUMBER() OVER (ORDER BY s.capacity, s.id) AS place FROM station s;

-- proven: one row per station
-- holds: readings between 0 and 4
-- proven: every station appears
SELECT s.id, (SELECT COUNT(*) FROM reading g WHERE g.station_id = s.id) AS readings FROM station s;

-- proven: one row per station
-- broken: every station appears => do not appear; lost by WHERE
-- proven: every station appears where bank = 'W'
SELECT s.id FROM station s WHERE s.bank = 'W';

-- proven: size is one of 'small', 'middle', 'large'
-- broken: size is one of 'small', 'large' => 6 of 14 rows have another size
-- proven: one row per station
SELECT s.id, CASE WHEN s.capacity < 5 THEN 'small' WHEN s.capacity < 9 THEN 'middle' ELSE 'large' END AS size FROM station s;

-- broken: one row per station => repeated at step 2, JOIN reading g (36 rows)
-- broken: one row per sighting => several rows
-- broken: total of heads is total of sighting.head_count => too much; repeated at step 2
SELECT s.id, h.head_count AS heads FROM sighting h JOIN reading g ON g.station_id = h.station_id JOIN station s ON s.id = h.station_id;

-- proven: one row per s, r
-- holds: 168 rows
-- broken: one row per s => 14 stations have several rows, 168 in all; repeated at step 2, CROSS JOIN river r (154 rows)
-- holds: every s appears
-- holds: every r appears
SELECT s.id AS station_no, r.id AS river_no FROM station s CROSS JOIN river r;

-- holds: 2 rows
-- holds: one row per a
-- proven: no null in b
SELECT v.a, v.b FROM (VALUES (1, 'x'), (2, 'y')) AS v (a, b);

-- broken: total of seats is total of s.capacity where s.capacity > 0 => 24 too little
-- misspelt: total of seats is total of s.capacity where station.capacity > 0 => station means nothing
SELECT r.id, SUM(s.capacity) AS seats FROM station s JOIN river r ON r.id = s.river_id GROUP BY r.id HAVING SUM(s.capacity) >= 9;

-- undecided: every warden appears => several columns of the result refer to warden: one and other
-- undecided: one row per warden => several columns of the result refer to warden
SELECT a.keeper_id AS one, b.keeper_id AS other FROM station a JOIN station b ON b.id = a.id + 1;

-- broken: order by name => orders its rows by something else
SELECT s.name FROM station s ORDER BY '1';

-- proven: capacity between 3 and 100
-- holds: name between 'A' and 'Z' => so is every name
SELECT s.name, s.capacity FROM station s WHERE s.capacity BETWEEN 4 AND 99 AND s.name BETWEEN 'B' AND 'Y';
