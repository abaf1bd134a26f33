-- Claims of every kind about the river watch as it is, with what becomes of them and, behind =>, what
-- the reason must say.

-- holds: one row per name => 14 rows, no two of them of one name
-- broken: one row per bank => 5 values of bank have several rows, 14 in all
-- broken: one row per river_id => values of river_id have several rows
-- proven: one row per station => station.id is a key
-- proven: one row per station, bank => station.id is a key
-- broken: no null in river_id => 1 of 14 rows has NULL in river_id
-- proven: no null in name, capacity => never NULL
-- broken: no null in keeper_id, bank => 4 of 14 rows have NULL in keeper_id and bank
-- broken: 13 rows => the result has 14 rows
-- holds: 14 rows
-- holds: at least 14 rows
-- broken: at least 15 rows
-- holds: at most 14 rows
-- broken: at most 13 rows
-- broken: no rows => the result has 14 rows
-- proven: river_id refers to river => station.river_id refers to river
-- broken: capacity refers to warden => in 2 of 14 rows, capacity is no warden
-- holds: capacity between 1 and 14
-- broken: capacity between 2 and 13 => 2 of 14 rows have another capacity
-- holds: capacity between -5 and 14.5
-- holds: bank is one of 'W', 'R', 'S', 'M' => so is every bank of 14 rows
-- broken: bank is one of 'W', 'R' => another bank
-- broken: order by name => the query has no ORDER BY
-- proven: every station appears
-- proven: total of capacity is total of station.capacity
-- broken: total of id is number of station => the total of id is 105, and the number of rows of station is 14: 91 too much
-- misspelt: one rwo per station => near it is: one row per station
-- misspelt: every staton appears => near it is: station
-- misspelt: every station apears => near it is: every station appears
-- misspelt: no null in nmae => near it is: name
-- misspelt: no nulls in name => near it is: no null in name
-- misspelt: name refers to rivver => near it is: river
-- misspelt: at least many rows => one is written: at least N rows
-- misspelt: total of capacity is total of capacity => is total of TABLE.capacity
-- misspelt: total of capacity is total of station.cpacity => near it is: capacity
-- misspelt: every reading appears => the query does not use reading
-- misspelt: every station appears where opened > 3 => no column of the query is called opened
-- misspelt: every station appears where capacity > => behind where
-- misspelt: every station appears where capacity > AVG(capacity) => behind where there can be no aggregate, as AVG(capacity)
-- misspelt: every station appears where r.id > 3 => behind where: r means nothing; it is about station alone
-- misspelt: every station appears where capacity > :least => behind where there can be no parameter
-- misspelt: total of name is total of station.name => station.name holds no numbers
-- misspelt: bank is one of bank => values are wanted
-- misspelt: capacity between 3 => no values
-- misspelt: levels at most 3 => no recursion
-- misspelt: the moon is full => claims are: one row per A, B
-- misspelt: capacity refers to sighting => sighting has no key of 1 column
-- undecided: same rows as nowhere.sql => there is no file nowhere.sql
-- undecided: same rows as ../../secret.sql => not in the folder
-- undecided: rows of nowhere.csv => there is no file nowhere.csv
SELECT s.id, s.name, s.river_id, s.keeper_id, s.bank, s.capacity FROM station s;

-- broken: one row per station => 8 stations have several rows, 22 in all; repeated at step 2, JOIN reading g (14 rows)
-- broken: every station appears => 2 of 14 stations do not appear; lost at step 2, JOIN reading g (2 rows)
-- broken: every reading appears => 1 of 27 readings does not appear
-- broken: total of capacity is total of station.capacity => 130 too much; repeated at step 2
-- proven: one row per reading
-- broken: one row per name => 8 values of name have several rows
-- broken: every station appears where capacity > 4 => 1 of 10 stations where capacity > 4 does not appear
-- holds: every station appears where bank = 'S' => all 4 stations where bank = 'S' appear
-- undecided: every station appears where sleep(capacity) > 1 => the function sleep is not known to only compute
-- undecided: every station appears where capacity > 99 => there is no station where capacity > 99
SELECT s.name, s.capacity FROM station s JOIN reading g ON g.station_id = s.id;

-- proven: every station appears
-- broken: total of n is number of reading => the total of n is 26, and the number of rows of reading is 27: 1 too little
-- proven: one row per station
SELECT s.name, COUNT(g.id) AS n FROM station s LEFT JOIN reading g ON g.station_id = s.id GROUP BY s.id, s.name;

-- undecided: one row per name => the result has no row
-- proven: no null in name
-- undecided: no null in keeper_id => the result has no row
-- undecided: name is one of 'x' => the result has no row
-- undecided: id refers to river => no row of the result has a value in id
-- holds: no rows => the result has no row
-- broken: every station appears => 14 of 14 stations do not appear; lost by WHERE (14 rows)
SELECT s.id, s.name FROM station s WHERE s.capacity > 1000;

-- misspelt: one row per id => several columns of the result are called id
-- proven: one row per s.id, r.id
-- proven: one row per s.id => station.id is a key and river.id is a key
-- proven: one row per station.id
-- misspelt: one row per x.id => no column or table of the query is called x.id
SELECT s.id, r.id FROM station s JOIN river r ON r.id = s.river_id AND r.length_km > 0;

-- misspelt: one row per warden => warden is used several times, as w and m; name one of these
-- proven: one row per w
-- broken: one row per m => 2 wardens have several rows, 5 in all; repeated at step 2, JOIN warden m
-- broken: every w appears => 1 of 10 wardens does not appear; lost at step 2, JOIN warden m (1 row)
-- broken: every m appears => 4 of 10 wardens do not appear; lost at step 2, JOIN warden m (4 rows)
SELECT w.given_name AS warden_name, m.given_name AS mentor FROM warden w JOIN warden m ON m.id = w.mentor_id;

-- undecided: one row per station => it would if it showed s.id
-- proven: every station appears
-- proven: one row per bank
SELECT DISTINCT s.bank FROM station s;

-- proven: levels at most 4
-- holds: levels at most 3
-- broken: levels at most 2 => of level 3
WITH RECURSIVE up (id, depth) AS (SELECT r.id, 1 FROM river r WHERE r.flows_into IS NULL UNION ALL SELECT r.id, u.depth + 1 FROM river r JOIN up u ON r.flows_into = u.id WHERE u.depth < 4 AND r.id <> 5 AND r.id <> 4)
SELECT id, depth FROM up;

-- holds: levels at most 4
-- broken: levels at most 3
-- proven: one row per id
WITH RECURSIVE up (id) AS (SELECT w.id FROM warden w WHERE w.mentor_id IS NULL UNION SELECT w.id FROM warden w JOIN up u ON w.mentor_id = u.id)
SELECT id FROM up;

-- broken: order by name => something else than name
-- proven: order by capacity desc
-- broken: order by capacity => something else
SELECT s.name, s.capacity FROM station s ORDER BY s.capacity DESC;

-- undecided: one row per name => has no value
-- proven: one row per station
SELECT s.name FROM station s WHERE s.capacity > :least;

-- broken: station_id refers to station => in 1 of 27 rows, station_id is no station
-- broken: every station appears => 2 of 14 stations do not appear
SELECT g.station_id FROM reading g;

-- undecided: one row per name => Could not convert
SELECT CAST(s.name AS INTEGER) AS name FROM station s;
