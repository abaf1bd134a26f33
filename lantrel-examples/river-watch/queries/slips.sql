-- What a second look would have caught.
SELECT s.name, r.name river
FROM station s
JOIN river r
WHERE s.capacity > 3;

SELECT s.bank, s.name, MAX(s.capacity) AS largest
FROM station s
GROUP BY s.bank;

SELECT s.name, k.famly_name
FROM station s
LEFT JOIN warden k ON k.id = s.keeper_id;
