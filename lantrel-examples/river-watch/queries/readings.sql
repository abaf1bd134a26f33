-- How often each station was read.
-- claim: one row per station
-- claim: every station appears
-- claim: no null in readings
-- claim: total of readings is number of reading
SELECT s.name, COUNT(r.id) AS readings
FROM station s
LEFT JOIN reading r ON r.station_id = s.id
GROUP BY s.id, s.name
ORDER BY s.name;
