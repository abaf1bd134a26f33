-- Readings of deep water, written the old way.
SELECT s.name, r.name AS river, d.depth_cm   -- three tables
FROM station s, river r,
     reading d
WHERE s.river_id = r.id
  AND d.station_id = s.id   -- the station that was read
  AND d.depth_cm > 150;
