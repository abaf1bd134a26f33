-- Faulty queries of the river watch: the kind above each, its place between the marks.

-- unknown-table
SELECT s.name FROM «statoin» s;
-- unknown-table
SELECT r.name FROM river r WHERE r.id IN (SELECT x.river_id FROM «stations» x);
-- unknown-table
WITH q AS (SELECT s.id FROM station s) SELECT p.id FROM «qq» p;

-- unknown-table
SELECT r.name FROM river r WHERE r.id > ALL (SELECT «s».river_id FROM station t WHERE t.bank = 'W');

-- unknown-column
SELECT s.«nme» FROM station s;
-- unknown-column
SELECT r.name FROM river r WHERE EXISTS (SELECT 1 FROM station s WHERE s.«river» = r.id);
-- unknown-column
SELECT q.«nam» FROM (SELECT s.name FROM station s) q;

-- ambiguous-column
SELECT «name» FROM station s LEFT JOIN river r ON r.id = s.river_id;
-- ambiguous-column
SELECT s.capacity FROM station s LEFT JOIN river r ON r.id = s.river_id WHERE «id» > 3;
-- ambiguous-column
SELECT s.bank, COUNT(*) AS n FROM station s LEFT JOIN warden k ON k.id = s.keeper_id GROUP BY s.bank ORDER BY MAX(«id»);

-- hidden-by-alias
SELECT «station».name FROM station s;
-- hidden-by-alias
SELECT s.name FROM station s LEFT JOIN river r ON «river».id = s.river_id;
-- hidden-by-alias
SELECT s.name FROM station s WHERE EXISTS (SELECT 1 FROM reading d WHERE «reading».station_id = s.id);

-- repeated-alias
SELECT s.name FROM station s LEFT JOIN river «s» ON s.id = s.river_id;
-- repeated-alias
SELECT station.name FROM station, «station» WHERE station.id = 1;
-- repeated-alias
SELECT r.name FROM river r LEFT JOIN station x ON x.river_id = r.id LEFT JOIN reading «x» ON x.station_id = x.id;

-- not-visible-yet
SELECT s.name FROM station s LEFT JOIN river r ON r.id = «d.station_id» LEFT JOIN reading d ON d.station_id = s.id;
-- not-visible-yet
SELECT r.name FROM river r LEFT JOIN station s ON s.keeper_id = «k.id» LEFT JOIN warden k ON k.id = s.keeper_id;
-- not-visible-yet
SELECT q.n FROM (SELECT COUNT(*) AS n FROM reading d JOIN river r ON «s.river_id» = r.id JOIN station s ON s.id = d.station_id) q;

-- ungrouped-column
SELECT «s.name», COUNT(*) AS n FROM station s GROUP BY s.river_id;
-- ungrouped-column
SELECT r.name, «s.name», COUNT(d.id) AS n FROM river r LEFT JOIN station s ON s.river_id = r.id LEFT JOIN reading d ON d.station_id = s.id GROUP BY r.id, r.name;
-- ungrouped-column
SELECT s.bank FROM station s GROUP BY s.bank HAVING «s.capacity» > 3;

-- aggregate-in-where
SELECT s.river_id FROM station s WHERE «COUNT(*)» > 1 GROUP BY s.river_id;
-- aggregate-in-where
SELECT r.name FROM river r LEFT JOIN station s ON s.river_id = r.id WHERE «MAX(s.capacity)» > 3 GROUP BY r.id, r.name;
-- aggregate-in-where
SELECT k.id FROM warden k WHERE k.id IN (SELECT s.keeper_id FROM station s WHERE «SUM(s.capacity)» > 10 GROUP BY s.keeper_id);

-- cross-product
SELECT s.name, r.length_km FROM station s«,» river r;
-- cross-product
SELECT s.name FROM station s, river r«,» warden w WHERE s.river_id = r.id;
-- cross-product
SELECT q.n FROM (SELECT COUNT(*) AS n FROM reading d«,» species p) q;
-- cross-product
SELECT r.name FROM river r WHERE r.id IN (SELECT s.river_id FROM station s«,» bank_kind b);

-- not-a-reference
SELECT s.name, r.name AS river FROM station s LEFT JOIN river r ON «r.id <> s.river_id» ORDER BY s.name;
-- not-a-reference
SELECT d.id, s.name FROM reading d, station s WHERE «d.station_id >= s.id» AND d.depth_cm > 100;
-- not-a-reference
SELECT s.name, q.n FROM station s JOIN (SELECT d.station_id, COUNT(*) AS n FROM reading d GROUP BY d.station_id) q ON «q.n = s.id»;
-- not-a-reference
WITH most AS (SELECT g.species_id, SUM(g.head_count) AS heads FROM sighting g GROUP BY g.species_id) SELECT p.name, m.heads FROM species p LEFT JOIN most m ON «p.id = m.heads» ORDER BY p.id;
-- not-a-reference
SELECT s.name, r.length_km FROM station s JOIN river r ON «s.id = r.id»;
-- not-a-reference
SELECT g.head_count, s.name FROM sighting g LEFT JOIN station s ON «s.id = g.species_id»;
-- not-a-reference
SELECT s.name FROM station s WHERE s.id NOT IN (SELECT «d.id» FROM reading d);
-- not-a-reference
SELECT s.name FROM station s WHERE NOT EXISTS (SELECT 1 FROM reading d WHERE «d.id = s.id»);
-- not-a-reference
SELECT d.id, r.name FROM reading d LEFT JOIN river r ON «r.id = d.station_id»;
-- not-a-reference
SELECT r.name, q.n FROM river r LEFT JOIN (SELECT s.keeper_id, COUNT(*) AS n FROM station s GROUP BY s.keeper_id) q ON «q.keeper_id = r.id»;
-- not-a-reference
WITH q AS (SELECT d.station_id AS st, MAX(d.depth_cm) AS deepest FROM reading d GROUP BY d.station_id) SELECT r.name, q.deepest FROM river r LEFT JOIN q ON «q.st = r.id»;
-- not-a-reference
SELECT s.name, (SELECT r.name FROM river r WHERE «r.id = s.id») AS river FROM station s;
-- not-a-reference
WITH RECURSIVE up (id, n) AS (SELECT r.id, 0 FROM river r WHERE r.id = 4 UNION ALL SELECT t.id, u.n + 1 FROM up u JOIN river t ON «t.id = u.id» WHERE u.n < 3) SELECT up.id, up.n FROM up;
-- not-a-reference
SELECT r.name, q.what FROM (SELECT s.id AS place, 'station' AS what FROM station s UNION ALL SELECT k.id, 'warden' FROM warden k) q JOIN river r ON «r.id = q.place»;

-- rows-without-partner
SELECT s.name, r.name AS river FROM station s «JOIN» river r ON r.id = s.river_id;
-- rows-without-partner
SELECT s.name, r.name AS river FROM station s«,» river r WHERE r.id = s.river_id;
-- rows-without-partner
SELECT q.name FROM (SELECT s.name, k.family_name FROM station s «JOIN» warden k ON k.id = s.keeper_id) q;
-- rows-without-partner
SELECT w.family_name, m.family_name AS mentor FROM warden w «JOIN» warden m ON m.id = w.mentor_id;
-- rows-without-partner
SELECT s.bank, COUNT(*) AS n FROM station s «INNER JOIN» warden k ON k.id = s.keeper_id GROUP BY s.bank;

-- outer-join-cancelled
SELECT r.id, SUM(s.capacity) AS capacity FROM river r LEFT JOIN station s ON s.river_id = r.id WHERE «s.keeper_id IS NULL» GROUP BY r.id;
-- outer-join-cancelled
SELECT r.name, s.name AS station FROM river r LEFT JOIN station s ON s.river_id = r.id WHERE «s.capacity > 8 OR s.id IS NULL» ORDER BY r.id;
-- outer-join-cancelled
SELECT r.name, s.name AS station FROM station s RIGHT JOIN river r ON s.river_id = r.id WHERE r.id < 9 AND «(s.bank = 'R' OR s.capacity > 8 OR s.capacity IS NULL)»;
-- outer-join-cancelled
SELECT s.id FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id HAVING «SUM(d.depth_cm) < 100»;
-- outer-join-cancelled
SELECT r.id, COUNT(s.id) AS stations FROM station s RIGHT JOIN river r ON s.river_id = r.id GROUP BY r.id HAVING COUNT(*) > 0 AND «10 >= SUM(s.capacity)»;
-- outer-join-cancelled
SELECT s.name, k.family_name FROM station s LEFT JOIN warden k ON k.id = s.keeper_id WHERE «k.family_name LIKE 'H%'»;
-- outer-join-cancelled
SELECT r.name, s.name AS station FROM station s RIGHT JOIN river r ON r.id = s.river_id WHERE «s.capacity >= 5»;
-- outer-join-cancelled
SELECT s.name FROM station s LEFT JOIN reading d ON d.station_id = s.id WHERE «d.taken_at BETWEEN TIMESTAMP '2026-01-01 00:00:00' AND TIMESTAMP '2026-12-31 00:00:00'»;
-- outer-join-cancelled
SELECT q.name FROM (SELECT s.name, d.depth_cm FROM station s LEFT JOIN reading d ON d.station_id = s.id) q WHERE «q.depth_cm > 100»;
-- outer-join-cancelled
WITH kept AS (SELECT s.name, k.given_name FROM station s LEFT JOIN warden k ON k.id = s.keeper_id) SELECT kept.name FROM kept WHERE «kept.given_name <> 'Ada'»;

-- repeated-in-total
SELECT «SUM(COALESCE(q.room, 0))» AS total FROM (SELECT s.capacity AS room, d.depth_cm FROM station s LEFT JOIN reading d ON d.station_id = s.id) q;
-- repeated-in-total
SELECT «AVG(q.room * 2)» AS mean FROM (SELECT s.capacity + 1 AS room, d.depth_cm FROM station s JOIN reading d ON d.station_id = s.id) q;
-- repeated-in-total
WITH lines AS (SELECT s.id, (SELECT COUNT(*) FROM sighting g WHERE g.station_id = s.id) AS seen FROM station s JOIN reading d ON d.station_id = s.id), handed AS (SELECT l.seen AS n FROM lines l) SELECT «SUM(h.n)» AS seen FROM handed h;
-- repeated-in-total
SELECT r.name, «SUM(r.length_km)» AS km FROM river r LEFT JOIN station s ON s.river_id = r.id GROUP BY r.id, r.name;
-- repeated-in-total
SELECT «SUM(t.total)» AS all_of_them FROM (SELECT COUNT(*) AS total FROM station) t CROSS JOIN reading d;
-- repeated-in-total
SELECT d.id, «SUM(t.total) OVER (PARTITION BY d.station_id)» AS n FROM (SELECT COUNT(*) AS total FROM station) t CROSS JOIN reading d;
-- repeated-in-total
SELECT «AVG(s.capacity)» AS mean FROM station s LEFT JOIN reading d ON d.station_id = s.id;
-- repeated-in-total
SELECT s.name, d.id, «SUM(s.capacity) OVER (PARTITION BY s.river_id)» AS total FROM station s LEFT JOIN reading d ON d.station_id = s.id;
-- repeated-in-total
SELECT q.c FROM (SELECT s.bank, «COUNT(s.id)» AS c FROM station s LEFT JOIN sighting g ON g.station_id = s.id GROUP BY s.bank) q;
-- repeated-in-total
SELECT s.id, «SUM(g.head_count * s.capacity)» AS weight FROM station s LEFT JOIN sighting g ON g.station_id = s.id LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id;
-- repeated-in-total
SELECT s.id, «SUM(CASE WHEN d.temperature > 8 THEN g.head_count ELSE 0 END)» AS heads FROM station s LEFT JOIN sighting g ON g.station_id = s.id LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id;
-- repeated-in-total
SELECT s.id, «COUNT(CASE d.depth_cm WHEN 0 THEN NULL ELSE d.id END)» AS deep FROM station s LEFT JOIN reading d ON d.station_id = s.id LEFT JOIN sighting g ON g.station_id = s.id GROUP BY s.id;
-- repeated-in-total
SELECT s.id, «COUNT(CASE WHEN s.capacity > 0 AND d.depth_cm > 1 THEN 1 END)» AS deep FROM station s LEFT JOIN reading d ON d.station_id = s.id LEFT JOIN sighting g ON g.station_id = s.id GROUP BY s.id;
-- repeated-in-total
SELECT r.id, «COUNT(*)» AS stations FROM river r JOIN station s ON s.river_id = r.id JOIN reading d ON d.station_id = s.id GROUP BY r.id;
-- repeated-in-total
SELECT g.species_id, d.id, «SUM(g.head_count * s.capacity) OVER (PARTITION BY s.id)» AS weight FROM station s LEFT JOIN sighting g ON g.station_id = s.id LEFT JOIN reading d ON d.station_id = s.id;
-- repeated-in-total
SELECT k.family_name, k.id FROM warden k LEFT JOIN station s ON s.keeper_id = k.id LEFT JOIN reading d ON d.station_id = s.id GROUP BY k.id, k.family_name HAVING «SUM(s.capacity)» > 20;

-- null-comparison
SELECT s.name FROM station s WHERE «s.river_id = NULL»;
-- null-comparison
SELECT s.name FROM station s LEFT JOIN reading d ON d.station_id = s.id WHERE «d.id = NULL»;
-- null-comparison
SELECT s.name, CASE WHEN «s.bank = NULL» THEN 'none' ELSE s.bank END AS bank FROM station s;
-- null-comparison
SELECT s.bank, COUNT(*) AS n FROM station s GROUP BY s.bank HAVING «MAX(s.keeper_id) <> NULL»;
-- null-comparison
SELECT r.name FROM river r WHERE EXISTS (SELECT 1 FROM station s WHERE s.river_id = r.id AND «s.keeper_id <> NULL»);

-- wildcard-outside-like
SELECT s.name FROM station s WHERE «s.name = '%Weir'»;
-- wildcard-outside-like
SELECT k.given_name FROM warden k WHERE «k.family_name IN ('H%', 'Tarn')»;
-- wildcard-outside-like
SELECT s.name, r.length_km FROM station s LEFT JOIN river r ON r.id = s.river_id AND «r.name = 'Kes%'»;

-- always-true
SELECT r.name, COUNT(s.id) AS stations FROM river r LEFT JOIN station s ON s.river_id = r.id GROUP BY r.id, r.name HAVING «COUNT(s.id) >= 0»;
-- always-true
SELECT k.given_name FROM warden k WHERE «k.id <> ANY (SELECT s.keeper_id FROM station s WHERE s.keeper_id IS NOT NULL)»;
-- always-true
SELECT r.name FROM river r WHERE r.length_km > 20 AND «r.id <> SOME (SELECT t.flows_into FROM river t WHERE t.flows_into IS NOT NULL)»;
-- always-true
SELECT r.name FROM river r WHERE «EXISTS (SELECT MAX(s.capacity) FROM station s WHERE s.river_id = r.id)»;
-- always-true
SELECT r.id FROM river r LEFT JOIN station s ON s.river_id = r.id GROUP BY r.id HAVING «COUNT(*) > 0»;
-- always-true
SELECT s.name FROM station s WHERE «s.name <> 'Mill Weir' OR s.name <> 'Hathe Pool'»;
-- always-true
SELECT r.name, s.name AS station FROM river r LEFT JOIN station s ON «s.river_id = s.river_id»;
-- always-true
SELECT s.name FROM station s WHERE EXISTS (SELECT 1 FROM reading d WHERE d.station_id = s.id AND «d.depth_cm = d.depth_cm»);

-- never-true
SELECT r.name FROM river r LEFT JOIN station s ON s.river_id = r.id GROUP BY r.id, r.name HAVING «COUNT(DISTINCT s.bank) < 0»;
-- never-true
SELECT r.id FROM river r LEFT JOIN station s ON s.river_id = r.id GROUP BY r.id HAVING «COUNT(*) = 0»;
-- never-true
SELECT s.bank FROM station s GROUP BY s.bank HAVING MAX(s.capacity) > 5 AND «COUNT(*) < 1»;
-- never-true
SELECT r.name FROM river r WHERE NOT «EXISTS (SELECT COUNT(*) FROM station s WHERE s.river_id = r.id)»;
-- never-true
SELECT r.name, s.id FROM river r LEFT JOIN station s ON s.river_id = r.id AND «s.id IS NULL»;
-- never-true
SELECT s.name, r.name AS river FROM station s RIGHT JOIN river r ON «s.name IS NULL» AND s.river_id = r.id;
-- never-true
SELECT s.name FROM station s WHERE «s.capacity = 3 AND s.capacity = 4»;
-- never-true
SELECT d.id FROM reading d WHERE «d.taken_at >= DATE '2026-06-30' AND d.taken_at < DATE '2026-06-01'»;
-- never-true
SELECT p.name FROM species p WHERE «p.group_id IS NULL»;
-- never-true
SELECT k.family_name FROM warden k JOIN station s ON s.keeper_id = k.id WHERE «s.id IS NULL»;

-- condition-misses-table
SELECT s.name, d.depth_cm FROM river r JOIN station s ON s.river_id = r.id JOIN reading d ON «r.id = s.river_id»;
-- condition-misses-table
SELECT s.name, g.head_count FROM station s LEFT JOIN sighting g ON «s.bank = 'R'»;
-- condition-misses-table
SELECT s.name FROM station s WHERE s.id IN (SELECT d.station_id FROM reading d JOIN sighting g ON «d.depth_cm > 100»);

-- partial-key
SELECT s.name, p.name AS species, g.seen_on, g.head_count FROM station s CROSS JOIN species p LEFT JOIN sighting g ON «g.station_id = s.id»;
-- partial-key
SELECT s.name, p.name AS species, SUM(g.head_count) AS heads FROM species p CROSS JOIN station s JOIN sighting g ON «g.species_id = p.id» WHERE g.seen_on > DATE '2026-01-01' GROUP BY s.id, s.name, p.id, p.name;
-- partial-key
SELECT g.station_id, g.head_count - «LAG(g.head_count) OVER (PARTITION BY g.station_id ORDER BY g.seen_on)» AS more FROM sighting g;
-- partial-key
SELECT g.species_id AS sp, g.seen_on AS day, «LEAD(g.head_count) OVER (PARTITION BY g.species_id ORDER BY g.seen_on DESC)» AS heads FROM sighting g;
-- partial-key
SELECT d.id, d.taken_at FROM reading d JOIN (SELECT x.station_id, MAX(x.taken_at) AS latest FROM reading x GROUP BY x.station_id) l ON «l.latest = d.taken_at»;
-- partial-key
SELECT s.name, m.capacity FROM station s JOIN (SELECT x.river_id, MAX(x.capacity) AS capacity FROM station x GROUP BY x.river_id) m ON «m.capacity = s.capacity»;
-- partial-key
SELECT g.head_count, q.total FROM sighting g LEFT JOIN (SELECT species_id, seen_on, SUM(head_count) AS total FROM sighting GROUP BY species_id, seen_on) q ON «q.seen_on = g.seen_on»;
-- partial-key
WITH daily AS (SELECT station_id, seen_on, COUNT(*) AS n FROM sighting GROUP BY station_id, seen_on) SELECT g.species_id, daily.n FROM sighting g JOIN daily ON «g.station_id = daily.station_id»;
-- partial-key
SELECT g.head_count, q.n FROM sighting g JOIN (SELECT s.species_id, s.station_id, COUNT(*) AS n FROM sighting s GROUP BY s.species_id, s.station_id) q ON «q.species_id = g.species_id»;

-- type-mismatch
SELECT d.id FROM reading d WHERE «d.taken_at <= DATE '2026-03-02'» AND d.station_id = 1;
-- type-mismatch
SELECT s.name, d.id FROM station s JOIN reading d ON d.station_id = s.id WHERE «DATE '2026-06-14' = d.taken_at»;
SELECT d.id FROM reading d LEFT JOIN sighting g ON «g.seen_on = d.taken_at»;
-- type-mismatch
SELECT g.species_id FROM sighting g WHERE EXISTS (SELECT 1 FROM reading d WHERE d.station_id = g.station_id AND «d.taken_at = g.seen_on»);
-- type-mismatch
SELECT s.name FROM station s LEFT JOIN sighting g ON g.station_id = s.id LEFT JOIN reading d ON d.station_id = s.id AND «d.taken_at = g.seen_on»;

-- loose-or
SELECT s.name, d.depth_cm FROM station s JOIN reading d ON «d.station_id = s.id OR d.depth_cm IS NULL»;
-- loose-or
SELECT s.name, r.name AS river FROM station s, river r WHERE «r.id = s.river_id OR r.id = s.keeper_id AND s.capacity > 3 OR r.length_km > 100»;
-- loose-or
SELECT r.name FROM river r WHERE r.id IN (SELECT s.river_id FROM station s JOIN warden k ON «k.id = s.keeper_id OR k.mentor_id = 1»);
-- loose-or
SELECT s.name, r.name AS river FROM station s JOIN river r ON «r.id = s.river_id OR r.length_km = s.capacity»;
-- loose-or
SELECT g.head_count, p.name FROM sighting g LEFT JOIN species p ON «p.id = g.species_id OR p.group_id = g.head_count» ORDER BY g.head_count;
-- loose-or
SELECT r.name FROM river r WHERE EXISTS (SELECT 1 FROM station s WHERE «s.river_id = r.id OR s.capacity > 3»);

-- mixed-and-or
SELECT s.name FROM station s WHERE «s.bank = 'S' OR s.bank = 'R' AND s.capacity > 7»;
-- mixed-and-or
SELECT d.id FROM reading d LEFT JOIN station s ON s.id = d.station_id WHERE «d.temperature > 15 AND s.bank = 'S' OR d.depth_cm > 300»;
-- mixed-and-or
SELECT r.name FROM river r WHERE r.id IN (SELECT s.river_id FROM station s WHERE «s.capacity > 8 AND s.bank = 'R' OR s.bank = 'M'»);

-- natural-surprise
SELECT s.capacity FROM station s «NATURAL JOIN» river r;
-- natural-surprise
SELECT s.capacity FROM station s JOIN river r USING («id»);
-- natural-surprise
SELECT q.capacity FROM (SELECT s.capacity, k.given_name FROM station s «NATURAL LEFT JOIN» warden k) q;

-- reversed-self-join
SELECT w.given_name, COUNT(m.id) AS pupils FROM warden w LEFT JOIN warden m ON «m.id = w.mentor_id» GROUP BY w.id, w.given_name;
-- reversed-self-join
SELECT t.name, COUNT(DISTINCT u.id) AS n FROM river t LEFT JOIN river u ON «t.flows_into = u.id» GROUP BY t.id, t.name;
-- reversed-self-join
SELECT w.given_name, m.given_name AS mentor_name FROM warden w LEFT JOIN warden m ON «m.mentor_id = w.id»;
-- reversed-self-join
SELECT g.name, parent.name AS wider FROM species_group g LEFT JOIN species_group parent ON «g.id = parent.within_id»;
-- reversed-self-join
SELECT child.name, g.name AS wider FROM species_group g LEFT JOIN species_group child ON «g.within_id = child.id»;

-- self-match
SELECT r.name, k.given_name, m.given_name AS other FROM station a JOIN station b ON «b.river_id = a.river_id» JOIN river r ON r.id = a.river_id JOIN warden k ON k.id = a.keeper_id JOIN warden m ON m.id = b.keeper_id;
-- self-match
SELECT w.given_name, m.given_name AS mentor FROM warden w LEFT JOIN warden x ON x.id = w.mentor_id JOIN warden m ON «m.id = w.id»;
-- self-match
SELECT a.given_name, b.given_name AS other FROM warden a JOIN warden b ON «a.mentor_id = b.mentor_id»;
-- self-match
SELECT a.name, b.name AS same_bank FROM station a, station b WHERE «a.bank = b.bank»;

-- mirrored-pairs
SELECT x.seen_on, p.name, q.name AS other FROM sighting x JOIN sighting y ON y.station_id = x.station_id AND y.seen_on = x.seen_on AND «y.species_id <> x.species_id» JOIN species p ON p.id = x.species_id JOIN species q ON q.id = y.species_id;
-- mirrored-pairs
SELECT t.name, p.name AS one, q.name AS other FROM station t, sighting x, sighting y, species p, species q WHERE t.id = x.station_id AND x.station_id = y.station_id AND «x.species_id <> y.species_id» AND x.species_id = p.id AND y.species_id = q.id;
-- mirrored-pairs
SELECT a.given_name, b.given_name AS other FROM warden a JOIN warden b ON a.mentor_id = b.mentor_id AND «a.id <> b.id»;
-- mirrored-pairs
SELECT a.name, b.name AS same_bank FROM station a, station b WHERE a.bank = b.bank AND «a.id <> b.id»;
-- mirrored-pairs
SELECT a.name, b.name AS other FROM species a JOIN species b ON a.group_id = b.group_id WHERE «b.id <> a.id»;

-- outer-chain-broken
SELECT s.name, k.family_name FROM station s LEFT JOIN warden k ON k.id = s.keeper_id «JOIN» warden m ON m.id = k.mentor_id;
-- outer-chain-broken
SELECT r.name, g.head_count FROM river r LEFT JOIN station s ON s.river_id = r.id «INNER JOIN» sighting g ON g.station_id = s.id;
-- outer-chain-broken
SELECT r.name, d.depth_cm FROM river r LEFT JOIN station s ON s.river_id = r.id «JOIN» reading d ON s.id = d.station_id WHERE s.bank = 'R' OR s.bank IS NULL;

-- filter-on-kept-side
SELECT s.name, k.family_name FROM station s LEFT JOIN warden k ON k.id = s.keeper_id AND «s.capacity > 8»;
-- filter-on-kept-side
SELECT r.name, COUNT(s.id) AS n FROM river r LEFT JOIN station s ON s.river_id = r.id AND «r.flows_into IS NOT NULL» GROUP BY r.id, r.name;
-- filter-on-kept-side
SELECT q.name FROM (SELECT s.name, d.depth_cm FROM station s LEFT JOIN reading d ON «s.bank = 'W'» AND d.station_id = s.id) q;

-- partner-test-on-nullable
SELECT s.name FROM station s LEFT JOIN reading d ON d.station_id = s.id WHERE «d.depth_cm IS NULL»;
-- partner-test-on-nullable
SELECT r.name FROM river r LEFT JOIN station s ON s.river_id = r.id WHERE «s.keeper_id IS NULL»;
-- partner-test-on-nullable
SELECT k.family_name FROM station s RIGHT JOIN warden k ON k.id = s.keeper_id WHERE «s.bank IS NULL»;
-- partner-test-on-nullable
SELECT s.name, CASE WHEN «d.temperature IS NULL» THEN 'depth alone' ELSE 'warmth too' END AS measured FROM station s LEFT JOIN reading d ON d.station_id = s.id;

-- needless-outer-join
SELECT p.name, g.name AS species_group FROM species p «LEFT JOIN» species_group g ON p.group_id = g.id;
-- needless-outer-join
SELECT g.seen_on, s.name FROM sighting g «LEFT OUTER JOIN» station s ON s.id = g.station_id;
-- needless-outer-join
SELECT q.name FROM (SELECT p.name, sg.name AS kind FROM species p «LEFT JOIN» species_group sg ON sg.id = p.group_id) q WHERE q.kind IS NOT NULL;

-- null-swallows
SELECT COUNT(DISTINCT «s.name || s.bank») AS places FROM station s;
-- null-swallows
SELECT «s.name || ' / ' || r.name» AS place FROM station s LEFT JOIN river r ON r.id = s.river_id;
-- null-swallows
SELECT «s.name || ', ' || s.bank» AS label FROM station s;
-- null-swallows
SELECT UPPER(«r.name || ' / ' || k.family_name») AS place FROM station s LEFT JOIN river r ON r.id = s.river_id LEFT JOIN warden k ON k.id = s.keeper_id;
-- null-swallows
SELECT q.n, «q.bank || ' ' || q.n» AS label FROM (SELECT s.bank, NULLIF(s.name, '') AS n FROM station s) q;
-- null-swallows
SELECT s.name, CAST(«r.name || ', ' || LOWER(r.name) || k.family_name» AS VARCHAR(90)) AS place FROM station s LEFT JOIN river r ON r.id = s.river_id LEFT JOIN warden k ON k.id = s.keeper_id;
-- null-swallows
SELECT s.id, SUM(«s.capacity * 10 - d.depth_cm») AS room FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id;
-- null-swallows
SELECT d.station_id, SUM(2 * «(d.id + d.depth_cm)») AS odd FROM reading d GROUP BY d.station_id;
-- null-swallows
SELECT d.station_id, ROUND(SUM(ROUND(«d.depth_cm - d.temperature», 0)), 0) AS odd FROM reading d GROUP BY d.station_id;
-- null-swallows
SELECT s.name, «s.capacity - k.id» AS odd FROM station s LEFT JOIN warden k ON k.id = s.keeper_id;

-- same-join-twice
SELECT s.name, a.length_km, b.flow FROM station s LEFT JOIN river a ON a.id = s.river_id «LEFT JOIN» river b ON b.id = s.river_id;
-- same-join-twice
SELECT s.name, MIN(a.depth_cm) AS least, MAX(b.depth_cm) AS most FROM station s LEFT JOIN reading a ON a.station_id = s.id «LEFT JOIN» reading b ON s.id = b.station_id GROUP BY s.id, s.name;
-- same-join-twice
SELECT q.c FROM (SELECT s.name, a.given_name AS c, b.family_name AS d FROM station s JOIN warden a ON s.keeper_id = a.id «JOIN» warden b ON s.keeper_id = b.id) q;

-- idle-table
SELECT r.name FROM river r WHERE EXISTS (SELECT * FROM station s «LEFT JOIN» reading d ON d.station_id = s.id WHERE s.river_id = r.id);
-- idle-table
SELECT s.name FROM station s «LEFT JOIN» river r ON r.id = s.river_id;
-- idle-table
SELECT g.head_count FROM sighting g «JOIN» species p ON p.id = g.species_id;
-- idle-table
SELECT s.bank, COUNT(*) AS n FROM station s «LEFT JOIN» warden k ON k.id = s.keeper_id GROUP BY s.bank;

-- crossed-branches
SELECT s.name, d.depth_cm, g.head_count FROM station s LEFT JOIN reading d ON d.station_id = s.id «LEFT JOIN» sighting g ON g.station_id = s.id;
-- crossed-branches
SELECT s.name, COUNT(*) AS n FROM station s JOIN reading d ON d.station_id = s.id «JOIN» sighting g ON g.station_id = s.id GROUP BY s.id, s.name;
-- crossed-branches
SELECT r.flow, s.name, t.name AS joins_it FROM river r LEFT JOIN station s ON s.river_id = r.id «LEFT JOIN» river t ON t.flows_into = r.id;
-- crossed-branches
SELECT s.id, p.name AS species, d.depth_cm FROM station s JOIN sighting g ON g.station_id = s.id JOIN species p ON p.id = g.species_id «JOIN» reading d ON d.station_id = s.id;

-- rows-repeated
SELECT s.name FROM station s «JOIN» reading d ON d.station_id = s.id;
-- rows-repeated
SELECT s.name, s.capacity FROM station s «JOIN» reading d ON d.station_id = s.id WHERE d.temperature > 10;
-- rows-repeated
SELECT r.name, r.flow FROM river r «LEFT JOIN» station s ON s.river_id = r.id ORDER BY r.name;

-- distinct-hides-repeats
SELECT «DISTINCT» s.name FROM station s JOIN reading d ON d.station_id = s.id;
-- distinct-hides-repeats
SELECT s.bank, «SUM(DISTINCT s.capacity)» AS c FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.bank;
-- distinct-hides-repeats
SELECT «DISTINCT» k.id, k.family_name FROM warden k JOIN station s ON s.keeper_id = k.id WHERE s.capacity > 3;

-- average-of-averages
SELECT «AVG(q.mean)» AS usual FROM (SELECT d.station_id AS station, AVG(d.temperature) AS mean FROM reading d GROUP BY d.station_id) q;
-- average-of-averages
WITH q AS (SELECT s.bank AS side, s.id AS station, ROUND(AVG(d.depth_cm), 1) AS depth FROM station s JOIN reading d ON d.station_id = s.id GROUP BY s.bank, s.id), p AS (SELECT q.side AS bank, q.depth AS cm FROM q WHERE q.depth > 0) SELECT p.bank, ROUND(«AVG(p.cm)», 0) AS cm FROM p GROUP BY p.bank;
-- average-of-averages
SELECT r.name, «AVG(q.heads)» AS heads FROM (SELECT g.station_id AS station, AVG(g.head_count) AS heads FROM sighting g GROUP BY g.station_id) q JOIN station s ON s.id = q.station JOIN river r ON r.id = s.river_id GROUP BY r.id, r.name;

-- values-of-several-rows
SELECT d.station_id, MAX(d.taken_at) AS last_at, «MAX(d.depth_cm)» AS last_depth FROM reading d GROUP BY d.station_id;
-- values-of-several-rows
SELECT r.name, MIN(q.day) AS first_day, «MIN(q.heads)» AS first_heads FROM (SELECT s.river_id, g.seen_on AS day, g.head_count AS heads FROM sighting g JOIN station s ON s.id = g.station_id) q JOIN river r ON r.id = q.river_id GROUP BY r.id, r.name;
-- values-of-several-rows
SELECT MAX(r.length_km) AS longest, «MIN(r.name)» AS longest_name FROM river r;

-- uncounted-rows
SELECT r.name, «COUNT(s.keeper_id)» AS stations FROM river r JOIN station s ON s.river_id = r.id GROUP BY r.id, r.name;
-- uncounted-rows
SELECT «COUNT(x.temperature)» AS number_of_readings FROM reading x WHERE x.station_id IN (SELECT s.id FROM station s);
-- uncounted-rows
SELECT q.name, q.stations FROM (SELECT r.name, «COUNT(s.bank)» AS stations FROM river r LEFT JOIN station s ON s.river_id = r.id GROUP BY r.id, r.name) q WHERE q.stations > 0;
-- uncounted-rows
SELECT s.name, «COUNT(d.depth_cm)» AS readings FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name HAVING MAX(d.id) < 20;

-- count-of-missing
SELECT s.name, «COUNT(CASE WHEN d.temperature IS NULL THEN 'none' END)» AS unmeasured FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name;
-- count-of-missing
SELECT s.name, «SUM(CASE WHEN d.temperature IS NULL THEN 1 ELSE 0 END)» AS unmeasured FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name;
-- count-of-missing
SELECT s.name, «COUNT(CASE WHEN d.depth_cm IS NOT NULL THEN NULL ELSE 1 END)» AS without_depth FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name;
-- count-of-missing
SELECT k.family_name, «COUNT(CASE WHEN s.bank IS NULL THEN 1 END)» AS unknown_bank FROM station s RIGHT JOIN warden k ON k.id = s.keeper_id GROUP BY k.id, k.family_name;
-- count-of-missing
SELECT r.name, «COUNT(*)» AS stations FROM river r LEFT JOIN station s ON s.river_id = r.id GROUP BY r.id, r.name;
-- count-of-missing
SELECT k.given_name FROM warden k LEFT JOIN station s ON s.keeper_id = k.id GROUP BY k.id, k.given_name HAVING «COUNT(*)» > 0;
-- count-of-missing
SELECT s.name FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name ORDER BY «COUNT(*)» DESC;

-- null-total
SELECT r.name, «SUM(s.capacity)» AS c FROM river r LEFT JOIN station s ON s.river_id = r.id GROUP BY r.id, r.name;
-- null-total
SELECT s.id, «SUM(g.head_count)» AS heads FROM station s LEFT JOIN sighting g ON g.station_id = s.id GROUP BY s.id;
-- null-total
SELECT q.c FROM (SELECT k.id, «SUM(s.capacity)» AS c FROM warden k LEFT JOIN station s ON s.keeper_id = k.id GROUP BY k.id) q;

-- grouped-by-name
SELECT k.family_name, COUNT(*) AS n FROM station s JOIN warden k ON k.id = s.keeper_id WHERE s.keeper_id > 0 GROUP BY «k.family_name»;
-- grouped-by-name
SELECT COUNT(*) AS n, MAX(s.capacity) AS c FROM warden k JOIN station s ON s.keeper_id = k.id GROUP BY «k.family_name» ORDER BY 1;
-- grouped-by-name
SELECT r.name, «COUNT(DISTINCT k.family_name)» AS keepers FROM river r JOIN station s ON s.river_id = r.id JOIN warden k ON k.id = s.keeper_id GROUP BY r.id, r.name;

-- having-without-aggregate
SELECT s.river_id, COUNT(*) AS n FROM station s GROUP BY s.river_id HAVING «s.river_id > 3»;
-- having-without-aggregate
SELECT s.bank, COUNT(*) AS n FROM station s GROUP BY s.bank HAVING COUNT(*) > 1 AND «s.bank IS NOT NULL»;
-- having-without-aggregate
SELECT q.n FROM (SELECT d.station_id, COUNT(*) AS n FROM reading d GROUP BY d.station_id HAVING «d.station_id IN (1, 2, 3)») q;

-- accidental-outer-column
SELECT s.name FROM station s WHERE s.id IN (SELECT «capacity» FROM reading);
-- accidental-outer-column
SELECT s.name FROM station s WHERE s.id NOT IN (SELECT «keeper_id» FROM sighting);
-- accidental-outer-column
SELECT r.name, (SELECT MAX(s.capacity + «length_km») FROM station s WHERE s.river_id = r.id) AS longest FROM river r;

-- uncorrelated-exists
SELECT r.name FROM river r WHERE «EXISTS (SELECT 1 FROM station)»;
-- uncorrelated-exists
SELECT s.name FROM station s WHERE NOT «EXISTS (SELECT 1 FROM sighting g WHERE g.head_count > 100)»;
-- uncorrelated-exists
SELECT k.family_name FROM warden k LEFT JOIN station s ON s.keeper_id = k.id WHERE s.id IS NULL OR «EXISTS (SELECT 1 FROM reading d JOIN station t ON t.id = d.station_id)»;

-- not-in-null
SELECT d.id FROM reading d WHERE «d.depth_cm >= ALL (SELECT x.depth_cm FROM reading x)»;
-- not-in-null
SELECT r.name FROM river r WHERE «r.id NOT IN (SELECT s.river_id FROM station s)»;
-- not-in-null
SELECT r.name FROM river r WHERE «NOT r.id IN (SELECT x.flows_into FROM river x)»;
-- not-in-null
SELECT s.name FROM station s WHERE «s.bank NOT IN ('R', NULL)»;
-- not-in-null
SELECT r.name FROM river r WHERE «r.id <> ALL (SELECT s.river_id FROM station s)»;

-- subquery-many-rows
SELECT r.name, «(SELECT s.name FROM station s WHERE s.river_id = r.id)» AS station FROM river r;
-- subquery-many-rows
SELECT s.name FROM station s WHERE s.keeper_id = «(SELECT k.id FROM warden k WHERE k.family_name = 'Harrow')»;
-- subquery-many-rows
SELECT s.name FROM station s WHERE s.capacity > «(SELECT x.capacity FROM station x WHERE x.river_id = s.river_id)»;

-- union-removes-rows
SELECT SUM(u.capacity) AS total FROM (SELECT s.capacity FROM station s WHERE s.bank = 'R' «UNION» SELECT s.capacity FROM station s WHERE s.bank = 'S') u;
-- union-removes-rows
WITH seen AS (SELECT s.river_id FROM station s «UNION» SELECT r.id FROM river r UNION SELECT r.flows_into FROM river r) SELECT COUNT(*) AS n FROM seen e;
-- union-removes-rows
SELECT s.river_id FROM station s «UNION» SELECT r.id FROM river r;
-- union-removes-rows
SELECT s.capacity FROM station s WHERE s.bank = 'R' «UNION» SELECT s.capacity FROM station s WHERE s.bank = 'S';
-- union-removes-rows
SELECT k.family_name FROM warden k «union» SELECT k.given_name FROM warden k ORDER BY 1;

-- unordered-limit
SELECT s.name, s.capacity FROM station s «LIMIT 5»;
-- unordered-limit
SELECT d.id FROM reading d LEFT JOIN station s ON s.id = d.station_id WHERE d.depth_cm > 20 «LIMIT 2»;
-- unordered-limit
SELECT s.bank, COUNT(*) AS n FROM station s GROUP BY s.bank «FETCH FIRST 2 ROWS ONLY»;

-- unstable-order
SELECT d.id, «LAG(d.depth_cm) OVER (PARTITION BY d.station_id)» AS before_it FROM reading d;
-- unstable-order
SELECT s.name, «RANK() OVER (PARTITION BY s.bank)» AS place FROM station s;
-- unstable-order
SELECT q.name FROM (SELECT s.name, «FIRST_VALUE(s.id) OVER (PARTITION BY s.river_id)» AS first_id FROM station s) q WHERE q.first_id > 3;
-- unstable-order
SELECT q.station_id, q.id FROM (SELECT d.station_id, d.id, «ROW_NUMBER() OVER (PARTITION BY d.station_id ORDER BY CASE WHEN d.id > 0 THEN 1 END)» AS nth FROM reading d) q WHERE q.nth = 1;
-- unstable-order
SELECT s.name, «FIRST_VALUE(s.name) OVER (PARTITION BY s.river_id ORDER BY s.bank)» AS first_there FROM station s;
-- unstable-order
SELECT s.name FROM station s ORDER BY «s.capacity» LIMIT 6;
-- unstable-order
SELECT k.given_name FROM warden k ORDER BY «k.mentor_id» LIMIT 2;
-- unstable-order
SELECT d.id FROM reading d ORDER BY «d.station_id» LIMIT 2;

-- repeated-label
SELECT r.name, «s.name» FROM river r LEFT JOIN station s ON s.river_id = r.id;
-- repeated-label
SELECT s.id, s.name, «d.id» FROM station s LEFT JOIN reading d ON d.station_id = s.id;
-- repeated-label
SELECT MIN(s.capacity) AS c, «MAX(s.capacity) AS c» FROM station s;

-- alias-of-other-table
SELECT reading.name FROM station «reading»;
-- alias-of-other-table
SELECT r.capacity, s.flow FROM station «r» LEFT JOIN river s ON s.id = r.river_id;
-- alias-of-other-table
SELECT s.name FROM station s WHERE EXISTS (SELECT 1 FROM reading «river» WHERE river.station_id = s.id);

-- vague-alias
SELECT w1.given_name, w2.family_name FROM warden w1 LEFT JOIN warden «w2» ON w2.id = w1.mentor_id;
-- vague-alias
SELECT x.name, y.length_km FROM river x LEFT JOIN river «y» ON y.id = x.flows_into;
-- vague-alias
SELECT g1.name, g2.id FROM species_group g1 LEFT JOIN species_group «g2» ON g2.id = g1.within_id;

-- unqualified-column
SELECT s.name, s.bank, «flow» FROM station s LEFT JOIN river r ON r.id = s.river_id;
-- unqualified-column
SELECT s.name, d.depth_cm FROM station s LEFT JOIN reading d ON d.station_id = s.id AND «temperature» > 3;
-- unqualified-column
SELECT q.name FROM (SELECT s.name, r.flow, «length_km» FROM station s LEFT JOIN river r ON r.id = s.river_id) q;

-- endless-recursion
WITH RECURSIVE up AS (SELECT w.id, w.given_name, w.mentor_id FROM warden w WHERE w.id = 6 UNION ALL SELECT w.id, w.given_name, w.mentor_id FROM warden w JOIN up ON «w.mentor_id = up.mentor_id») SELECT up.given_name FROM up;
-- endless-recursion
WITH RECURSIVE down (id, within) AS (SELECT g.id, g.within_id FROM species_group g WHERE g.within_id IS NULL UNION ALL SELECT g.id, g.within_id FROM down d, species_group g WHERE «g.id = d.id») SELECT down.id FROM down;
-- endless-recursion
SELECT x.id FROM (WITH RECURSIVE near AS (SELECT s.id, s.river_id, 0 AS n FROM station s WHERE s.id = 1 UNION ALL SELECT s.id, near.river_id, near.n + 1 FROM near JOIN station s ON «near.river_id = s.river_id») SELECT near.id FROM near) x;
-- endless-recursion
WITH RECURSIVE t AS (SELECT w.id, w.given_name FROM warden w WHERE w.mentor_id IS NULL UNION ALL «SELECT w.id, w.given_name FROM warden w CROSS JOIN t WHERE w.mentor_id IS NOT NULL») SELECT t.given_name FROM t;
-- endless-recursion
WITH RECURSIVE t AS (SELECT 1 AS n UNION ALL «SELECT t.n + 1 FROM t») SELECT t.n FROM t;
-- endless-recursion
WITH RECURSIVE t (n) AS (SELECT 1 UNION ALL «SELECT n * 2 FROM t») SELECT n FROM t WHERE n < 100;
-- endless-recursion
SELECT x.n FROM (WITH RECURSIVE t AS (SELECT 0 AS n UNION «SELECT t.n + 1 FROM t») SELECT t.n FROM t) x;

-- reversed-recursion
WITH RECURSIVE t AS (SELECT w.id, w.mentor_id FROM warden w WHERE w.mentor_id IS NULL UNION ALL SELECT w.id, w.mentor_id FROM warden w JOIN t ON «w.id = t.mentor_id») SELECT t.id FROM t;
-- reversed-recursion
WITH RECURSIVE down AS (SELECT r.id, r.flows_into FROM river r WHERE r.flows_into IS NULL UNION SELECT r.id, r.flows_into FROM down JOIN river r ON «down.flows_into = r.id») SELECT down.id FROM down;
-- reversed-recursion
WITH RECURSIVE t (id, up, lvl) AS (SELECT g.id, g.within_id, 1 FROM species_group g WHERE g.within_id IS NULL UNION ALL SELECT g.id, g.within_id, t.lvl + 1 FROM species_group g JOIN t ON «t.up = g.id») SELECT t.id, t.lvl FROM t;
-- reversed-recursion
WITH RECURSIVE groups_below (id, up) AS (SELECT g.id, g.within_id FROM species_group g WHERE g.name = 'fish' UNION ALL SELECT g.id, g.within_id FROM species_group g JOIN groups_below b ON «g.id = b.up») SELECT b.id FROM groups_below b;

-- hierarchy-cut-short
WITH RECURSIVE t AS (SELECT r.id, 1 AS lvl FROM river r WHERE r.flows_into IS NULL UNION ALL SELECT r.id, t.lvl + 1 FROM river r JOIN t ON r.flows_into = t.id WHERE «t.lvl < 3») SELECT t.id, t.lvl FROM t;
-- hierarchy-cut-short
SELECT r.name, c.name AS far_below FROM river r JOIN river a ON a.id = r.flows_into JOIN river b ON b.id = a.flows_into «JOIN» river c ON c.id = b.flows_into;
-- hierarchy-cut-short
SELECT r.name, a.name AS into_it, b.name AS into_that, c.name AS further FROM river r LEFT JOIN river a ON a.flows_into = r.id LEFT JOIN river b ON b.flows_into = a.id «LEFT JOIN» river c ON c.flows_into = b.id WHERE r.flows_into IS NULL;

-- never-a-row
SELECT s.name FROM station s WHERE «s.bank = 'X'»;
-- never-a-row
SELECT s.name, r.name AS river FROM station s LEFT JOIN river r ON r.id = s.river_id WHERE s.capacity > 5 AND «s.name LIKE 'Brook%'»;
-- never-a-row
SELECT d.id, g.species_id, g.head_count FROM reading d JOIN sighting g ON «g.station_id = d.station_id AND g.head_count > 1000»;
-- never-a-row
SELECT r.name, q.n FROM river r JOIN (SELECT s.river_id, COUNT(*) AS n FROM station s WHERE «s.bank = 'X'» GROUP BY s.river_id) q ON q.river_id = r.id;
-- never-a-row
WITH large AS (SELECT s.id, s.river_id FROM station s WHERE «s.capacity > 500») SELECT r.id, r.flow, l.id AS station FROM river r LEFT JOIN large l ON l.river_id = r.id;
-- never-a-row
SELECT r.name FROM river r WHERE r.id IN (SELECT s.river_id FROM station s WHERE «s.name = 'Mill Wier'»);
-- never-a-row
SELECT r.name FROM river r WHERE EXISTS (SELECT 1 FROM station s WHERE s.river_id = r.id AND «s.bank = 'X'»);
-- never-a-row
SELECT s.name FROM station s WHERE s.bank = 'M' UNION ALL SELECT s.name FROM station s WHERE «s.bank = 'Q'»;
-- never-a-row
SELECT s.id, COUNT(*) AS n FROM station s JOIN reading d ON d.station_id = s.id GROUP BY s.id HAVING «COUNT(*) > 1000»;

-- never-a-row
WITH RECURSIVE t AS (SELECT r.id, r.name, r.flows_into FROM river r WHERE r.id = 1 UNION ALL SELECT r.id, r.name, r.flows_into FROM river r JOIN t ON «t.flows_into = r.id») SELECT t.name FROM t;

-- never-a-partner
SELECT r.name, COUNT(s.id) AS n FROM river r LEFT JOIN station s ON «s.river_id = r.id AND s.bank = 'X'» GROUP BY r.id, r.name;
-- never-a-partner
SELECT s.name, d.depth_cm FROM station s LEFT JOIN reading d ON «d.station_id = s.id AND d.depth_cm > 100000» ORDER BY s.name;
-- never-a-partner
SELECT w.id, q.name FROM warden w LEFT JOIN (SELECT s.keeper_id, s.name FROM station s WHERE s.capacity > 3) q ON «q.keeper_id = w.id AND q.name = 'Nowhere'» ORDER BY w.id;

-- count-ignores-condition
SELECT s.name, «AVG(CASE WHEN d.temperature > 10 THEN 1 END)» AS warm FROM station s JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name;
-- count-ignores-condition
SELECT «AVG(CASE WHEN s.bank = 'L' THEN 100 ELSE NULL END)» AS percent_left FROM station s;
-- count-ignores-condition
SELECT s.bank, «COUNT(CASE WHEN s.capacity > 8 THEN 1 ELSE 0 END)» AS large FROM station s GROUP BY s.bank;
-- count-ignores-condition
SELECT r.id, r.name, «COUNT(CASE s.bank WHEN 'W' THEN 'west' ELSE '' END)» AS west FROM river r JOIN station s ON s.river_id = r.id WHERE s.capacity > 2 GROUP BY r.id, r.name ORDER BY r.id;
-- count-ignores-condition
SELECT q.n FROM (SELECT «COUNT(CASE WHEN d.depth_cm > 150 THEN 1 WHEN d.temperature > 15 THEN 1 ELSE 0 END)» AS n FROM reading d) q;
-- count-ignores-condition
SELECT s.name, (SELECT «COUNT(CASE WHEN d.depth_cm > 150 THEN 1 ELSE 0 END)» FROM reading d WHERE d.station_id = s.id) AS deep FROM station s;

-- groups-of-one
SELECT s.id, s.name, COUNT(*) AS n FROM station s GROUP BY «s.id, s.name»;
-- groups-of-one
SELECT r.name, d.id, COUNT(*) AS readings FROM reading d JOIN station s ON s.id = d.station_id LEFT JOIN river r ON r.id = s.river_id GROUP BY «d.id, r.name»;
-- groups-of-one
SELECT g.station_id, g.species_id, g.seen_on, COUNT(g.head_count) AS n FROM sighting g GROUP BY «g.station_id, g.species_id, g.seen_on»;
-- groups-of-one
SELECT s.name, ROW_NUMBER() OVER (PARTITION BY «s.id» ORDER BY s.capacity) AS place FROM station s;

-- swapped-columns
SELECT q.first_word, q.last_word FROM (SELECT w.given_name AS first_word, w.family_name AS last_word FROM warden w) q UNION ALL SELECT «p.last_word», p.first_word FROM (SELECT r.name AS first_word, s.name AS last_word FROM station s LEFT JOIN river r ON r.id = s.river_id) p;
-- swapped-columns
WITH a (lower_id, upper_id) AS (SELECT w.id, w.mentor_id FROM warden w WHERE w.mentor_id IS NOT NULL), b (lower_id, upper_id) AS (SELECT r.id, r.flows_into FROM river r WHERE r.flows_into IS NOT NULL) SELECT a.lower_id, a.upper_id FROM a UNION ALL SELECT «b.upper_id», b.lower_id FROM b;
-- swapped-columns
SELECT u.n FROM (SELECT COUNT(*) AS n FROM (SELECT 1 AS m, d.station_id, d.id FROM (SELECT x.station_id, x.id FROM reading x) d UNION ALL SELECT 2, «e.id», e.station_id FROM (SELECT o.id, o.keeper_id AS station_id FROM station o WHERE o.keeper_id IS NOT NULL) e) z) u;

-- repeated-in-total
WITH x AS (SELECT s.river_id, s.capacity FROM station s LEFT JOIN reading d ON d.station_id = s.id) SELECT x.river_id, «SUM(x.capacity)» AS places FROM x GROUP BY x.river_id;
-- repeated-in-total
SELECT «AVG(x.capacity)» AS places FROM (SELECT s.id, s.capacity, d.depth_cm FROM station s LEFT JOIN reading d ON d.station_id = s.id WHERE s.capacity > 1) x WHERE x.id < 100;

-- not-a-reference
SELECT g.head_count, sp.name FROM sighting g LEFT JOIN species sp ON «sp.group_id = g.station_id»;
-- not-a-reference
SELECT s.name FROM station s WHERE EXISTS (SELECT 1 FROM species sp WHERE «sp.group_id = s.river_id»);

-- null-total
SELECT s.id, s.name, 100 - «SUM(d.depth_cm)» AS left_over FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name;

-- repeated-in-total
WITH x AS (SELECT s.river_id, s.capacity FROM station s LEFT JOIN reading d ON d.station_id = s.id) SELECT x.river_id FROM x GROUP BY x.river_id HAVING «SUM(x.capacity)» > 0;
-- repeated-in-total
WITH x AS (SELECT s.river_id, s.capacity FROM station s LEFT JOIN reading d ON d.station_id = s.id) SELECT r.name, (SELECT COUNT(*) FROM x y WHERE y.river_id = r.id) AS n, (SELECT «SUM(x.capacity)» FROM x WHERE x.river_id = r.id) AS places FROM river r;

-- filled-key
SELECT «d.station_id», COUNT(d.id) AS readings FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY d.station_id;
-- filled-key
SELECT x.seen_on, «x.station_id» FROM sighting x RIGHT JOIN station s ON s.id = x.station_id;
-- filled-key
SELECT «q.keeper_id», q.n FROM warden w LEFT JOIN (SELECT keeper_id, COUNT(*) AS n FROM station GROUP BY keeper_id) q ON q.keeper_id = w.id ORDER BY q.keeper_id;
-- filled-key
SELECT r.name FROM river r WHERE EXISTS (SELECT 1 FROM (SELECT «d.station_id», s.river_id FROM station s LEFT JOIN reading d ON d.station_id = s.id) q WHERE q.river_id = r.id AND q.station_id IS NOT NULL);

-- null-comparison
SELECT r.name FROM river r WHERE «r.flows_into <> 6» AND r.length_km > 90;
-- null-comparison
SELECT r.name FROM river r WHERE r.length_km > 90 AND «r.flows_into NOT IN (6, 7)»;
-- null-comparison
SELECT q.name FROM (SELECT name, flows_into FROM river WHERE «NOT (flows_into = 6)» AND length_km > 90) q ORDER BY q.name;

-- partial-key
SELECT s.name, s.capacity FROM station s WHERE «s.capacity IN (SELECT MAX(x.capacity) FROM station x GROUP BY x.river_id)»;
-- partial-key
SELECT r.name, s.name AS station FROM station s LEFT JOIN river r ON r.id = s.river_id WHERE s.id < 20 AND «s.capacity IN (SELECT MIN(x.capacity) AS least FROM station x GROUP BY x.river_id)» ORDER BY s.id;
-- partial-key
SELECT s.name FROM station s WHERE «s.capacity IN (SELECT MAX(x.capacity) FROM station x GROUP BY x.river_id HAVING COUNT(*) > 1)» AND s.bank IS NULL;
-- partial-key
SELECT s.name FROM station s WHERE s.bank = 'R' AND «s.capacity IN (SELECT MIN(x.capacity) FROM station x WHERE x.capacity > 4 AND x.bank <> 'R' GROUP BY x.river_id)»;
-- partial-key
SELECT d.id, g.species_id, g.head_count FROM reading d JOIN sighting g ON «g.station_id = d.station_id»;
-- partial-key
SELECT s.name, «COUNT(DISTINCT g.species_id)» AS sightings FROM station s LEFT JOIN sighting g ON g.station_id = s.id GROUP BY s.id, s.name;

-- distinct-hides-repeats
SELECT «SUM(DISTINCT s.capacity)» AS places FROM station s;
-- distinct-hides-repeats
SELECT «AVG(DISTINCT s.capacity)» AS mean FROM station s JOIN river r ON r.id = s.river_id WHERE r.length_km > 20;

-- null-swallows
SELECT d.station_id, SUM(«d.temperature - d.depth_cm») AS x FROM reading d GROUP BY d.station_id;

-- nearly-equal
SELECT s.name, k.label FROM (SELECT id, name, CASE WHEN id < 4 THEN LOWER(bank) ELSE bank END AS side FROM station) s LEFT JOIN bank_kind k ON «k.code = s.side» ORDER BY s.id;
-- nearly-equal
SELECT r.name, u.length_km FROM river r LEFT JOIN (SELECT CASE WHEN x.id < 9 THEN x.name ELSE UPPER(x.name) END AS name, x.length_km FROM river x) u ON «r.name = u.name» AND u.length_km > 20;
-- nearly-equal
WITH coded AS (SELECT id, CASE WHEN capacity > 8 THEN LOWER(bank) ELSE bank END AS side FROM station) SELECT k.label, COUNT(c.id) AS n FROM bank_kind k LEFT JOIN coded c ON «c.side = k.code» AND c.id > 0 GROUP BY k.code, k.label;

-- not-a-reference
SELECT s.id FROM station s EXCEPT SELECT «d.id» FROM reading d;
-- not-a-reference
SELECT q.no FROM (SELECT s.keeper_id AS no FROM station s INTERSECT SELECT «g.species_id» FROM sighting g) q;
-- repeated-in-total
SELECT 100.0 * «COUNT(*)» / (SELECT COUNT(*) FROM station) AS watched FROM station s JOIN reading d ON d.station_id = s.id;
-- repeated-in-total
SELECT COUNT(d.id) * 100.0 / «COUNT(*)» AS share FROM station s LEFT JOIN reading d ON d.station_id = s.id;
-- partial-key
SELECT d.station_id, d.taken_at, d.depth_cm - «LAG(d.depth_cm) OVER w» AS more FROM reading d WINDOW w AS (ORDER BY d.taken_at);
-- partial-key
SELECT q.station_id, q.depth_cm - «LAG(q.depth_cm) OVER (ORDER BY q.taken_at, q.id)» AS more FROM (SELECT d.id, d.station_id, d.taken_at, d.depth_cm FROM reading d WHERE d.depth_cm > 0) q;
-- not-a-reference
SELECT s.name, k.family_name FROM station s JOIN warden k ON k.id = COALESCE(s.keeper_id, «s.river_id»);
-- not-a-reference
SELECT w.given_name, (SELECT COUNT(*) FROM station s WHERE «s.keeper_id = s.id») AS kept FROM warden w;
-- unstable-order
SELECT s.id, «FIRST_VALUE(s.name) OVER w» AS first_name FROM station s WINDOW w AS (PARTITION BY s.river_id);

-- last-so-far
SELECT d.station_id, «LAST_VALUE(d.depth_cm) OVER (PARTITION BY d.station_id ORDER BY d.taken_at, d.id)» AS latest FROM reading d;
-- last-so-far
SELECT q.id FROM (SELECT s.id, «LAST_VALUE(s.capacity) OVER w» AS most FROM station s WINDOW w AS (ORDER BY s.capacity, s.id)) q WHERE q.most > 5;
-- last-so-far
SELECT r.name FROM river r WHERE r.id IN (SELECT «LAST_VALUE(x.id) OVER (PARTITION BY x.flows_into ORDER BY x.length_km, x.id)» FROM river x WHERE x.flow > 1);
-- rows-repeated
SELECT d.id, d.taken_at, n.taken_at AS next_at FROM reading d «LEFT JOIN» reading n ON n.station_id = d.station_id AND n.taken_at > d.taken_at;
-- rows-repeated
SELECT d.id, d.depth_cm - prev.depth_cm AS more FROM reading d «JOIN» reading prev ON d.taken_at > prev.taken_at AND d.station_id = prev.station_id;
-- idle-table
SELECT r.name FROM river r WHERE NOT EXISTS (SELECT 1 FROM station s «LEFT JOIN» sighting g ON g.station_id = s.id AND g.head_count > 5 WHERE s.river_id = r.id);
-- uncorrelated-exists
SELECT s.name, «(SELECT g.head_count FROM sighting g WHERE g.head_count > 0 ORDER BY g.seen_on, g.species_id, g.station_id FETCH FIRST 1 ROW ONLY)» AS first_heads FROM station s;
-- uncorrelated-exists
SELECT g.name FROM species_group g WHERE «EXISTS (SELECT 1 FROM species p WHERE NOT EXISTS (SELECT 1 FROM sighting x WHERE x.species_id = p.id))»;
-- rows-without-partner
SELECT s.name FROM station s «JOIN» reading d ON d.station_id = s.id GROUP BY s.id, s.name HAVING COUNT(d.id) <= 3;
-- type-mismatch
SELECT s.name FROM station s WHERE «CAST(s.capacity AS CHAR(10)) > '9'»;
-- type-mismatch
SELECT r.name FROM river r JOIN station s ON s.river_id = r.id AND «CAST(r.length_km AS CHAR(10)) >= '50'»;
-- type-mismatch
SELECT MAX(«CAST(r.length_km AS CHAR(5))») AS longest FROM river r;
-- unstable-order
SELECT d.id, «SUM(d.depth_cm) OVER (PARTITION BY d.station_id)» AS so_far FROM reading d;
-- values-of-several-rows
SELECT s.bank, MAX(s.capacity) AS capacity, «MIN(s.river_id)» AS river_id FROM station s GROUP BY s.bank;
-- values-of-several-rows
SELECT s.river_id, «MAX(d.station_id)» AS last_station FROM station s JOIN reading d ON d.station_id = s.id GROUP BY s.river_id;
-- swapped-columns
SELECT d.station_id, d.depth_cm FROM reading d UNION ALL SELECT «g.head_count», g.station_id FROM sighting g;
-- partial-key
SELECT d.station_id, d.depth_cm - «LAG(d.depth_cm) OVER (ORDER BY d.station_id, d.taken_at)» AS rise FROM reading d;
-- rows-repeated
WITH RECURSIVE t (id, level_no) AS («SELECT g.id, 1 FROM species_group g» UNION ALL SELECT g.id, t.level_no + 1 FROM t JOIN species_group g ON g.within_id = t.id) SELECT id, level_no FROM t;
-- never-true
SELECT s.name, CASE WHEN s.capacity > 2 THEN 'some' WHEN «s.capacity > 8» THEN 'many' END AS size_word FROM station s;
-- never-true
SELECT r.name FROM river r WHERE CASE WHEN r.length_km < 90 THEN 1 WHEN r.flow > 1 THEN 2 WHEN «r.length_km <= 40» THEN 3 ELSE 4 END > 1;
-- uncorrelated-exists
SELECT s.name, «(SELECT MAX(d.taken_at) FROM reading d JOIN station s ON s.id = d.station_id)» AS last_at FROM station s;
-- self-match
SELECT a.station_id, a.seen_on FROM sighting a JOIN sighting b ON «b.station_id = a.station_id» AND b.seen_on = a.seen_on;
-- repeated-in-total
SELECT s.name, s.capacity - «t.heads» AS room FROM station s JOIN (SELECT x.river_id, SUM(g.head_count) AS heads FROM sighting g JOIN station x ON x.id = g.station_id GROUP BY x.river_id) t ON t.river_id = s.river_id;
-- outer-join-cancelled
SELECT s.id FROM station s LEFT JOIN sighting g ON g.station_id = s.id GROUP BY s.id, s.capacity HAVING «SUM(g.head_count) < s.capacity»;
-- endless-recursion
WITH RECURSIVE t (id) AS (SELECT s.id FROM station s WHERE s.id = 1 UNION ALL SELECT b.station_id FROM t JOIN sighting a ON «a.station_id = t.id» JOIN sighting b ON b.species_id = a.species_id) SELECT COUNT(*) AS n FROM t;
-- values-of-several-rows
SELECT s.river_id, MAX(s.capacity) AS most, «MAX(s.id)» AS station FROM station s GROUP BY s.river_id;
-- repeated-in-total
SELECT g.species_id, «COUNT(*)» AS stations FROM sighting g GROUP BY g.species_id;
-- crossed-branches
SELECT g.seen_on, d.id, g.head_count FROM reading d JOIN sighting g ON «g.station_id = d.station_id» ORDER BY d.id, g.species_id, g.seen_on;
-- crossed-branches
SELECT s.bank, COUNT(*) AS n FROM reading d, sighting g, station s WHERE «g.station_id = d.station_id» AND s.id = d.station_id GROUP BY s.bank;
-- order-against-name
SELECT q.station_id, q.depth_cm AS last_depth FROM (SELECT d.station_id, d.depth_cm, ROW_NUMBER() OVER (PARTITION BY d.station_id ORDER BY «d.taken_at», d.id) AS n FROM reading d) q WHERE q.n = 1;
-- order-against-name
WITH newest AS (SELECT d.station_id, d.depth_cm, RANK() OVER (PARTITION BY d.station_id ORDER BY «d.taken_at») AS n FROM reading d) SELECT s.name, n.depth_cm FROM station s JOIN newest n ON n.station_id = s.id WHERE n.n = 1;
-- order-against-name
SELECT g.species_id, «MAX(g.seen_on)» AS first_seen FROM sighting g GROUP BY g.species_id;
-- gap-in-case
SELECT s.name, «CASE WHEN s.capacity < 6 THEN 'small' WHEN s.capacity > 6 THEN 'large' END» AS size FROM station s;
-- gap-in-case
SELECT q.size, COUNT(*) AS n FROM (SELECT «CASE WHEN 4 >= s.capacity THEN 'small' WHEN s.capacity BETWEEN 7 AND 9 THEN 'middle' WHEN s.capacity > 9 THEN 'large' END» AS size FROM station s) q GROUP BY q.size;
-- gap-in-case
SELECT d.id, «CASE WHEN d.depth_cm < 50 THEN 1 WHEN d.depth_cm > 60 AND d.depth_cm < 300 THEN 2 WHEN d.depth_cm >= 300 THEN 3 END» AS step FROM reading d;
-- null-swallows
SELECT s.id, «COUNT(g.seen_on) - q.n» AS more FROM station s LEFT JOIN sighting g ON g.station_id = s.id LEFT JOIN (SELECT d.station_id, COUNT(*) AS n FROM reading d GROUP BY d.station_id) q ON q.station_id = s.id GROUP BY s.id, q.n;
-- repeated-in-total
SELECT s.river_id, «AVG(d.depth_cm)» AS average_station FROM station s JOIN reading d ON d.station_id = s.id GROUP BY s.river_id;
-- repeated-in-total
SELECT «AVG(d.depth_cm)» AS mean_per_station FROM reading d;
-- values-of-several-rows
SELECT d.station_id, «MIN(d.temperature)» AS first_temperature FROM reading d GROUP BY d.station_id;
-- partial-key
SELECT SUM(d.depth_cm * g.head_count) AS product FROM reading d JOIN sighting g ON «g.station_id = d.station_id» WHERE g.species_id = 2;
-- partial-key
SELECT g.station_id, g.seen_on, «SUM(d.depth_cm)» AS depths FROM sighting g JOIN reading d ON d.station_id = g.station_id WHERE g.species_id = 2 GROUP BY g.station_id, g.seen_on;
-- mixed-units
SELECT «SUM(q.amount)» AS total FROM (SELECT s.capacity AS amount, s.bank AS unit FROM station s) q;
-- mixed-units
SELECT q.river_id, COUNT(*) AS n, ROUND(«AVG(q.dose)», 1) AS mean_dose FROM (SELECT s.river_id, s.capacity AS dose, s.bank AS dose_unit FROM station s) q GROUP BY q.river_id;
-- mixed-units
SELECT k.mentor_id, «SUM(q.price * 2)» AS spent FROM warden k JOIN (SELECT s.keeper_id, s.capacity AS price, b.code AS currency FROM station s JOIN bank_kind b ON b.code = s.bank) q ON q.keeper_id = k.id GROUP BY k.mentor_id;
-- null-swallows
SELECT s.name, s.capacity - «(SELECT SUM(g.head_count) FROM sighting g WHERE g.station_id = s.id)» AS room FROM station s;
-- null-swallows
SELECT s.id, s.capacity, 2 * (MAX(d.depth_cm) + «(SELECT SUM(g.head_count) FROM sighting g WHERE g.station_id = s.id)») AS x FROM station s JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.capacity;
-- null-swallows
SELECT r.name, ROUND(«(SELECT SUM(s.capacity) FROM station s WHERE s.river_id = r.id)» - r.flow, 1) AS more FROM river r;
-- null-comparison
SELECT s.name FROM station s WHERE «s.capacity > (SELECT SUM(g.head_count) FROM sighting g WHERE g.station_id = s.id)»;
-- null-comparison
SELECT r.name FROM river r WHERE r.length_km > 20 AND «(SELECT SUM(s.capacity) FROM station s WHERE s.river_id = r.id AND s.capacity > 6) <= 10»;
-- reversed-recursion
WITH RECURSIVE t (id, within_id) AS (SELECT g.id, g.within_id FROM species_group g WHERE g.name = 'fish' UNION ALL SELECT g.id, g.within_id FROM species_group g JOIN t ON «g.id = t.within_id») SELECT COUNT(*) AS groups_below FROM t;
-- reversed-recursion
WITH RECURSIVE t (id, flows_into) AS (SELECT r.id, r.flows_into FROM river r WHERE r.id = 3 UNION ALL SELECT r.id, r.flows_into FROM river r JOIN t ON «r.flows_into = t.id») SELECT t.id AS ancestor FROM t;
-- mixed-units
SELECT MIN(q.unit) AS unit, «SUM(q.amount)» AS total FROM (SELECT s.river_id, s.capacity AS amount, s.bank AS unit FROM station s) q;
-- null-comparison
SELECT s.name FROM station s WHERE «(SELECT SUM(g.head_count) FROM sighting g WHERE g.station_id = s.id) <= 0»;
-- null-swallows
SELECT s.id, ROUND(«SUM(d.depth_cm) - s.keeper_id», 1) AS more FROM station s JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.keeper_id;
-- mirrored-pairs
SELECT a.family_name, b.family_name AS other FROM warden a JOIN warden b ON «a.family_name < b.family_name»;
-- mirrored-pairs
SELECT a.id, a.family_name AS one, b.family_name AS other, b.id AS other_id FROM warden a, warden b WHERE «b.family_name > a.family_name»;
-- null-comparison
SELECT d.id FROM reading d WHERE «NOT (d.temperature < 8)»;
-- null-comparison
SELECT d.id FROM reading d JOIN station s ON s.id = d.station_id WHERE «d.depth_cm NOT BETWEEN 40 AND 60» AND s.capacity > 3;
-- null-comparison
SELECT d.id FROM reading d WHERE «NOT (2 * 4 > d.temperature)»;
-- null-comparison
SELECT s.name FROM station s WHERE «s.bank <> UPPER('l')» AND s.capacity > 2;
-- null-comparison
SELECT r.name FROM river r WHERE «r.flows_into <> -(-6)» AND r.length_km > 90;
-- null-comparison
SELECT s.name FROM station s WHERE s.capacity > 2 AND «NOT s.bank IN ('R', 'S')»;
-- rows-without-partner
SELECT s.name, COUNT(*) AS readings FROM station s «JOIN» reading d ON d.station_id = s.id GROUP BY s.id, s.name HAVING COUNT(*) < 3;
-- mirrored-pairs
SELECT a.bank, b.bank AS other FROM station a JOIN station b ON b.river_id = a.river_id AND «a.bank > b.bank» WHERE a.river_id = 3;
-- uncorrelated-exists
SELECT s.name, x.depth_cm FROM station s «LEFT JOIN» (SELECT d.station_id, d.depth_cm FROM reading d ORDER BY d.taken_at DESC, d.id LIMIT 1) x ON x.station_id = s.id;
-- uncorrelated-exists
WITH newest AS (SELECT d.station_id, d.taken_at FROM reading d WHERE d.depth_cm > 0 ORDER BY d.taken_at DESC, d.id LIMIT 1) SELECT r.name, s.name AS station, n.taken_at FROM station s JOIN river r ON r.id = s.river_id «LEFT JOIN» newest n ON s.id = n.station_id;
-- outer-join-cancelled
SELECT s.name FROM station s LEFT JOIN sighting g ON g.station_id = s.id WHERE «g.species_id IS NULL OR g.species_id <> 4»;
-- outer-join-cancelled
SELECT s.name FROM station s LEFT JOIN sighting g ON g.station_id = s.id WHERE s.capacity > 0 AND «(g.species_id NOT IN (4, 8) OR g.station_id IS NULL)»;
-- uncounted-rows
SELECT «COUNT(DISTINCT s.capacity)» AS stations FROM station s;
-- uncounted-rows
SELECT COUNT(DISTINCT g.station_id) AS stations, «COUNT(DISTINCT g.head_count)» AS sightings FROM sighting g;
-- repeated-in-total
SELECT «SUM(q.n)» AS species FROM (SELECT g.station_id, COUNT(DISTINCT g.species_id) AS n FROM sighting g GROUP BY g.station_id) q;
-- repeated-in-total
WITH q AS (SELECT s.river_id, COUNT(DISTINCT g.species_id) AS kinds FROM sighting g JOIN station s ON s.id = g.station_id GROUP BY s.river_id) SELECT «SUM(q.kinds)» AS species_seen FROM q;
-- repeated-in-total
SELECT «AVG(d.depth_cm)» AS depth_per_station FROM reading d;
-- repeated-in-total
SELECT s.river_id, «AVG(d.temperature)» AS mean_temperature_per_station FROM reading d JOIN station s ON s.id = d.station_id GROUP BY s.river_id;
