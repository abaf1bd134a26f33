-- How much can the stations of each river take in, and how often were they read?
SELECT r.name AS river,
       SUM(s.capacity) AS capacity,
       COUNT(d.id) AS readings
FROM river r
JOIN station s ON s.river_id = r.id
LEFT JOIN reading d ON d.station_id = s.id
GROUP BY r.id, r.name
ORDER BY r.name;
