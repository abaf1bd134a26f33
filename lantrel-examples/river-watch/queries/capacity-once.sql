-- The same, with the readings of a station counted before they are joined.
SELECT r.name AS river,
       SUM(s.capacity) AS capacity,
       SUM(COALESCE(d.readings, 0)) AS readings
FROM river r
JOIN station s ON s.river_id = r.id
LEFT JOIN (
    SELECT station_id, COUNT(*) AS readings
    FROM reading
    GROUP BY station_id
  ) d ON d.station_id = s.id
GROUP BY r.id, r.name
ORDER BY r.name;
