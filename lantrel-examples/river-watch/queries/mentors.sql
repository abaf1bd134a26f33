-- Every warden with the mentor.
SELECT w.given_name AS warden, m.given_name AS mentor
FROM warden w
JOIN warden m ON m.id = w.mentor_id;

-- Stations and their rivers, by their numbers.
SELECT s.name, r.name AS river
FROM station s
JOIN river r ON r.id = s.id;
