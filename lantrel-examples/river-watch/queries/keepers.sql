SELECT s.name AS station,
       k.given_name || ' ' || k.family_name AS keeper
FROM station s
LEFT JOIN warden k ON k.id = s.keeper_id
WHERE k.family_name <> 'Harrow'   -- the Harrows are on leave
ORDER BY s.name;
