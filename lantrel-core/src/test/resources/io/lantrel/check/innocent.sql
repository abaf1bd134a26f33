-- Correct queries of the river watch that look suspicious, or not; none has a warning.

-- right
SELECT s.name, r.name AS belongs_to FROM station s LEFT JOIN river r ON r.id = s.river_id;
-- right
SELECT r.name FROM river r WHERE NOT EXISTS (SELECT 1 FROM station s WHERE s.river_id = r.id);
-- right
SELECT r.name FROM river r LEFT JOIN station s ON s.river_id = r.id WHERE s.river_id IS NULL;
-- right
SELECT r.name FROM river r WHERE EXISTS (SELECT 1 FROM station s WHERE s.river_id = r.id);
-- right
SELECT r.name FROM river r WHERE r.id IN (SELECT s.river_id FROM station s);
-- right
SELECT r.name FROM river r WHERE r.id NOT IN (SELECT s.river_id FROM station s WHERE s.river_id IS NOT NULL);
-- right
SELECT r.name, COUNT(s.river_id) AS how_many FROM river r LEFT JOIN station s ON s.river_id = r.id GROUP BY r.id, r.name;
-- right
SELECT r.name, (SELECT COUNT(*) FROM station s WHERE s.river_id = r.id) AS how_many FROM river r;
-- right
SELECT r.name, COALESCE(t.how_many, 0) AS how_many FROM river r LEFT JOIN (SELECT s.river_id AS up, COUNT(*) AS how_many FROM station s GROUP BY s.river_id) t ON t.up = r.id;
-- right
WITH t AS (SELECT s.river_id AS up, COUNT(*) AS how_many FROM station s WHERE s.river_id IS NOT NULL GROUP BY s.river_id HAVING COUNT(*) > 1) SELECT r.name, t.how_many FROM t JOIN river r ON r.id = t.up;
-- right
SELECT s.name FROM station s WHERE s.river_id IS NOT NULL ORDER BY s.id;
-- right
SELECT s.name FROM station s WHERE s.river_id IN (SELECT x.id FROM river x WHERE x.name <> 'Nobody');
-- right
SELECT s.river_id, COUNT(*) AS how_many FROM station s GROUP BY s.river_id HAVING COUNT(*) >= 1 ORDER BY s.river_id;
-- right
SELECT s.name, RANK() OVER (PARTITION BY s.river_id ORDER BY s.name) AS place FROM station s;
-- right
SELECT s.name, r.name AS belongs_to FROM station s JOIN river r ON r.id = s.river_id WHERE s.river_id IS NOT NULL AND r.name <> 'Nobody';
-- right
SELECT a.name AS one, b.name AS other FROM station a JOIN station b ON a.river_id = b.river_id AND a.id < b.id WHERE a.river_id IS NOT NULL;
-- right
SELECT DISTINCT s.river_id FROM station s;
-- right
SELECT s.name, k.family_name AS belongs_to FROM station s LEFT JOIN warden k ON k.id = s.keeper_id;
-- right
SELECT k.family_name FROM warden k WHERE NOT EXISTS (SELECT 1 FROM station s WHERE s.keeper_id = k.id);
-- right
SELECT k.family_name FROM warden k LEFT JOIN station s ON s.keeper_id = k.id WHERE s.keeper_id IS NULL;
-- right
SELECT k.family_name FROM warden k WHERE EXISTS (SELECT 1 FROM station s WHERE s.keeper_id = k.id);
-- right
SELECT k.family_name FROM warden k WHERE k.id IN (SELECT s.keeper_id FROM station s);
-- right
SELECT k.family_name FROM warden k WHERE k.id NOT IN (SELECT s.keeper_id FROM station s WHERE s.keeper_id IS NOT NULL);
-- right
SELECT k.family_name, COUNT(s.keeper_id) AS how_many FROM warden k LEFT JOIN station s ON s.keeper_id = k.id GROUP BY k.id, k.family_name;
-- right
SELECT k.family_name, (SELECT COUNT(*) FROM station s WHERE s.keeper_id = k.id) AS how_many FROM warden k;
-- right
SELECT k.family_name, COALESCE(t.how_many, 0) AS how_many FROM warden k LEFT JOIN (SELECT s.keeper_id AS up, COUNT(*) AS how_many FROM station s GROUP BY s.keeper_id) t ON t.up = k.id;
-- right
WITH t AS (SELECT s.keeper_id AS up, COUNT(*) AS how_many FROM station s WHERE s.keeper_id IS NOT NULL GROUP BY s.keeper_id HAVING COUNT(*) > 1) SELECT k.family_name, t.how_many FROM t JOIN warden k ON k.id = t.up;
-- right
SELECT s.name FROM station s WHERE s.keeper_id IS NOT NULL ORDER BY s.id;
-- right
SELECT s.name FROM station s WHERE s.keeper_id IN (SELECT x.id FROM warden x WHERE x.family_name <> 'Nobody');
-- right
SELECT s.keeper_id, COUNT(*) AS how_many FROM station s GROUP BY s.keeper_id HAVING COUNT(*) >= 1 ORDER BY s.keeper_id;
-- right
SELECT s.name, RANK() OVER (PARTITION BY s.keeper_id ORDER BY s.name) AS place FROM station s;
-- right
SELECT s.name, k.family_name AS belongs_to FROM station s JOIN warden k ON k.id = s.keeper_id WHERE s.keeper_id IS NOT NULL AND k.family_name <> 'Nobody';
-- right
SELECT a.name AS one, b.name AS other FROM station a JOIN station b ON a.keeper_id = b.keeper_id AND a.id < b.id WHERE a.keeper_id IS NOT NULL;
-- right
SELECT DISTINCT s.keeper_id FROM station s;
-- right
SELECT s.name, b.label AS belongs_to FROM station s LEFT JOIN bank_kind b ON b.code = s.bank;
-- right
SELECT b.label FROM bank_kind b WHERE NOT EXISTS (SELECT 1 FROM station s WHERE s.bank = b.code);
-- right
SELECT b.label FROM bank_kind b LEFT JOIN station s ON s.bank = b.code WHERE s.bank IS NULL;
-- right
SELECT b.label FROM bank_kind b WHERE EXISTS (SELECT 1 FROM station s WHERE s.bank = b.code);
-- right
SELECT b.label FROM bank_kind b WHERE b.code IN (SELECT s.bank FROM station s);
-- right
SELECT b.label FROM bank_kind b WHERE b.code NOT IN (SELECT s.bank FROM station s WHERE s.bank IS NOT NULL);
-- right
SELECT b.label, COUNT(s.bank) AS how_many FROM bank_kind b LEFT JOIN station s ON s.bank = b.code GROUP BY b.code, b.label;
-- right
SELECT b.label, (SELECT COUNT(*) FROM station s WHERE s.bank = b.code) AS how_many FROM bank_kind b;
-- right
SELECT b.label, COALESCE(t.how_many, 0) AS how_many FROM bank_kind b LEFT JOIN (SELECT s.bank AS up, COUNT(*) AS how_many FROM station s GROUP BY s.bank) t ON t.up = b.code;
-- right
WITH t AS (SELECT s.bank AS up, COUNT(*) AS how_many FROM station s WHERE s.bank IS NOT NULL GROUP BY s.bank HAVING COUNT(*) > 1) SELECT b.label, t.how_many FROM t JOIN bank_kind b ON b.code = t.up;
-- right
SELECT s.name FROM station s WHERE s.bank IS NOT NULL ORDER BY s.id;
-- right
SELECT s.name FROM station s WHERE s.bank IN (SELECT x.code FROM bank_kind x WHERE x.label <> 'Nobody');
-- right
SELECT s.bank, COUNT(*) AS how_many FROM station s GROUP BY s.bank HAVING COUNT(*) >= 1 ORDER BY s.bank;
-- right
SELECT s.name, RANK() OVER (PARTITION BY s.bank ORDER BY s.name) AS place FROM station s;
-- right
SELECT s.name, b.label AS belongs_to FROM station s JOIN bank_kind b ON b.code = s.bank WHERE s.bank IS NOT NULL AND b.label <> 'Nobody';
-- right
SELECT a.name AS one, b.name AS other FROM station a JOIN station b ON a.bank = b.bank AND a.id < b.id WHERE a.bank IS NOT NULL;
-- right
SELECT DISTINCT s.bank FROM station s;
-- right
SELECT d.depth_cm, s.name AS belongs_to FROM reading d LEFT JOIN station s ON s.id = d.station_id;
-- right
SELECT s.name FROM station s WHERE NOT EXISTS (SELECT 1 FROM reading d WHERE d.station_id = s.id);
-- right
SELECT s.name FROM station s LEFT JOIN reading d ON d.station_id = s.id WHERE d.station_id IS NULL;
-- right
SELECT s.name FROM station s WHERE EXISTS (SELECT 1 FROM reading d WHERE d.station_id = s.id);
-- right
SELECT s.name FROM station s WHERE s.id IN (SELECT d.station_id FROM reading d);
-- right
SELECT s.name FROM station s WHERE s.id NOT IN (SELECT d.station_id FROM reading d WHERE d.station_id IS NOT NULL);
-- right
SELECT s.name, COUNT(d.station_id) AS how_many FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name;
-- right
SELECT s.name, (SELECT COUNT(*) FROM reading d WHERE d.station_id = s.id) AS how_many FROM station s;
-- right
SELECT s.name, COALESCE(t.how_many, 0) AS how_many FROM station s LEFT JOIN (SELECT d.station_id AS up, COUNT(*) AS how_many FROM reading d GROUP BY d.station_id) t ON t.up = s.id;
-- right
WITH t AS (SELECT d.station_id AS up, COUNT(*) AS how_many FROM reading d WHERE d.station_id IS NOT NULL GROUP BY d.station_id HAVING COUNT(*) > 1) SELECT s.name, t.how_many FROM t LEFT JOIN station s ON s.id = t.up;
-- right
SELECT d.depth_cm FROM reading d WHERE d.station_id IS NOT NULL ORDER BY d.id;
-- right
SELECT d.depth_cm FROM reading d WHERE d.station_id IN (SELECT x.id FROM station x WHERE x.name <> 'Nobody');
-- right
SELECT d.station_id, COUNT(*) AS how_many FROM reading d GROUP BY d.station_id HAVING COUNT(*) >= 1 ORDER BY d.station_id;
-- right
SELECT d.depth_cm, RANK() OVER (PARTITION BY d.station_id ORDER BY d.depth_cm) AS place FROM reading d;
-- right
SELECT d.depth_cm, s.name AS belongs_to FROM reading d JOIN station s ON s.id = d.station_id WHERE d.station_id IS NOT NULL AND s.name <> 'Nobody';
-- right
SELECT a.depth_cm AS one, b.depth_cm AS other FROM reading a JOIN reading b ON a.station_id = b.station_id AND a.id < b.id WHERE a.station_id IS NOT NULL;
-- right
SELECT DISTINCT d.station_id FROM reading d;
-- right
SELECT p.name, g.name AS belongs_to FROM species p JOIN species_group g ON g.id = p.group_id;
-- right
SELECT g.name FROM species_group g WHERE NOT EXISTS (SELECT 1 FROM species p WHERE p.group_id = g.id);
-- right
SELECT g.name FROM species_group g LEFT JOIN species p ON p.group_id = g.id WHERE p.group_id IS NULL;
-- right
SELECT g.name FROM species_group g WHERE EXISTS (SELECT 1 FROM species p WHERE p.group_id = g.id);
-- right
SELECT g.name FROM species_group g WHERE g.id IN (SELECT p.group_id FROM species p);
-- right
SELECT g.name FROM species_group g WHERE g.id NOT IN (SELECT p.group_id FROM species p WHERE p.group_id IS NOT NULL);
-- right
SELECT g.name, COUNT(p.group_id) AS how_many FROM species_group g LEFT JOIN species p ON p.group_id = g.id GROUP BY g.id, g.name;
-- right
SELECT g.name, (SELECT COUNT(*) FROM species p WHERE p.group_id = g.id) AS how_many FROM species_group g;
-- right
SELECT g.name, COALESCE(t.how_many, 0) AS how_many FROM species_group g LEFT JOIN (SELECT p.group_id AS up, COUNT(*) AS how_many FROM species p GROUP BY p.group_id) t ON t.up = g.id;
-- right
WITH t AS (SELECT p.group_id AS up, COUNT(*) AS how_many FROM species p WHERE p.group_id IS NOT NULL GROUP BY p.group_id HAVING COUNT(*) > 1) SELECT g.name, t.how_many FROM t JOIN species_group g ON g.id = t.up;
-- right
SELECT p.name FROM species p WHERE p.group_id IS NOT NULL ORDER BY p.id;
-- right
SELECT p.name FROM species p WHERE p.group_id IN (SELECT x.id FROM species_group x WHERE x.name <> 'Nobody');
-- right
SELECT p.group_id, COUNT(*) AS how_many FROM species p GROUP BY p.group_id HAVING COUNT(*) >= 1 ORDER BY p.group_id;
-- right
SELECT p.name, RANK() OVER (PARTITION BY p.group_id ORDER BY p.name) AS place FROM species p;
-- right
SELECT p.name, g.name AS belongs_to FROM species p JOIN species_group g ON g.id = p.group_id WHERE p.group_id IS NOT NULL AND g.name <> 'Nobody';
-- right
SELECT a.name AS one, b.name AS other FROM species a JOIN species b ON a.group_id = b.group_id AND a.id < b.id WHERE a.group_id IS NOT NULL;
-- right
SELECT DISTINCT p.group_id FROM species p;
-- right
SELECT o.head_count, s.name AS belongs_to FROM sighting o JOIN station s ON s.id = o.station_id;
-- right
SELECT s.name FROM station s WHERE NOT EXISTS (SELECT 1 FROM sighting o WHERE o.station_id = s.id);
-- right
SELECT s.name FROM station s LEFT JOIN sighting o ON o.station_id = s.id WHERE o.station_id IS NULL;
-- right
SELECT s.name FROM station s WHERE EXISTS (SELECT 1 FROM sighting o WHERE o.station_id = s.id);
-- right
SELECT s.name FROM station s WHERE s.id IN (SELECT o.station_id FROM sighting o);
-- right
SELECT s.name FROM station s WHERE s.id NOT IN (SELECT o.station_id FROM sighting o WHERE o.station_id IS NOT NULL);
-- right
SELECT s.name, COUNT(o.station_id) AS how_many FROM station s LEFT JOIN sighting o ON o.station_id = s.id GROUP BY s.id, s.name;
-- right
SELECT s.name, (SELECT COUNT(*) FROM sighting o WHERE o.station_id = s.id) AS how_many FROM station s;
-- right
SELECT s.name, COALESCE(t.how_many, 0) AS how_many FROM station s LEFT JOIN (SELECT o.station_id AS up, COUNT(*) AS how_many FROM sighting o GROUP BY o.station_id) t ON t.up = s.id;
-- right
WITH t AS (SELECT o.station_id AS up, COUNT(*) AS how_many FROM sighting o WHERE o.station_id IS NOT NULL GROUP BY o.station_id HAVING COUNT(*) > 1) SELECT s.name, t.how_many FROM t JOIN station s ON s.id = t.up;
-- right
SELECT o.head_count FROM sighting o WHERE o.station_id IS NOT NULL ORDER BY o.station_id, o.species_id, o.seen_on;
-- right
SELECT o.head_count FROM sighting o WHERE o.station_id IN (SELECT x.id FROM station x WHERE x.name <> 'Nobody');
-- right
SELECT o.station_id, COUNT(*) AS how_many FROM sighting o GROUP BY o.station_id HAVING COUNT(*) >= 1 ORDER BY o.station_id;
-- right
SELECT o.head_count, RANK() OVER (PARTITION BY o.station_id ORDER BY o.head_count) AS place FROM sighting o;
-- right
SELECT o.head_count, s.name AS belongs_to FROM sighting o JOIN station s ON s.id = o.station_id WHERE o.station_id IS NOT NULL AND s.name <> 'Nobody';
-- right
SELECT a.head_count AS one, b.head_count AS other FROM sighting a JOIN sighting b ON a.station_id = b.station_id AND a.seen_on < b.seen_on WHERE a.station_id IS NOT NULL;
-- right
SELECT DISTINCT o.station_id FROM sighting o;
-- right
SELECT o.head_count, p.name AS belongs_to FROM sighting o JOIN species p ON p.id = o.species_id;
-- right
SELECT p.name FROM species p WHERE NOT EXISTS (SELECT 1 FROM sighting o WHERE o.species_id = p.id);
-- right
SELECT p.name FROM species p LEFT JOIN sighting o ON o.species_id = p.id WHERE o.species_id IS NULL;
-- right
SELECT p.name FROM species p WHERE EXISTS (SELECT 1 FROM sighting o WHERE o.species_id = p.id);
-- right
SELECT p.name FROM species p WHERE p.id IN (SELECT o.species_id FROM sighting o);
-- right
SELECT p.name FROM species p WHERE p.id NOT IN (SELECT o.species_id FROM sighting o WHERE o.species_id IS NOT NULL);
-- right
SELECT p.name, COUNT(o.species_id) AS how_many FROM species p LEFT JOIN sighting o ON o.species_id = p.id GROUP BY p.id, p.name;
-- right
SELECT p.name, (SELECT COUNT(*) FROM sighting o WHERE o.species_id = p.id) AS how_many FROM species p;
-- right
SELECT p.name, COALESCE(t.how_many, 0) AS how_many FROM species p LEFT JOIN (SELECT o.species_id AS up, COUNT(*) AS how_many FROM sighting o GROUP BY o.species_id) t ON t.up = p.id;
-- right
WITH t AS (SELECT o.species_id AS up, COUNT(*) AS how_many FROM sighting o WHERE o.species_id IS NOT NULL GROUP BY o.species_id HAVING COUNT(*) > 1) SELECT p.name, t.how_many FROM t JOIN species p ON p.id = t.up;
-- right
SELECT o.head_count FROM sighting o WHERE o.species_id IS NOT NULL ORDER BY o.station_id, o.species_id, o.seen_on;
-- right
SELECT o.head_count FROM sighting o WHERE o.species_id IN (SELECT x.id FROM species x WHERE x.name <> 'Nobody');
-- right
SELECT o.species_id, COUNT(*) AS how_many FROM sighting o GROUP BY o.species_id HAVING COUNT(*) >= 1 ORDER BY o.species_id;
-- right
SELECT o.head_count, RANK() OVER (PARTITION BY o.species_id ORDER BY o.head_count) AS place FROM sighting o;
-- right
SELECT o.head_count, p.name AS belongs_to FROM sighting o JOIN species p ON p.id = o.species_id WHERE o.species_id IS NOT NULL AND p.name <> 'Nobody';
-- right
SELECT a.head_count AS one, b.head_count AS other FROM sighting a JOIN sighting b ON a.species_id = b.species_id AND a.seen_on < b.seen_on WHERE a.species_id IS NOT NULL;
-- right
SELECT DISTINCT o.species_id FROM sighting o;
-- right
SELECT r.name, m.name AS belongs_to FROM river r LEFT JOIN river m ON m.id = r.flows_into;
-- right
SELECT m.name FROM river m WHERE NOT EXISTS (SELECT 1 FROM river r WHERE r.flows_into = m.id);
-- right
SELECT m.name FROM river m LEFT JOIN river r ON r.flows_into = m.id WHERE r.flows_into IS NULL;
-- right
SELECT m.name FROM river m WHERE EXISTS (SELECT 1 FROM river r WHERE r.flows_into = m.id);
-- right
SELECT m.name FROM river m WHERE m.id IN (SELECT r.flows_into FROM river r);
-- right
SELECT m.name FROM river m WHERE m.id NOT IN (SELECT r.flows_into FROM river r WHERE r.flows_into IS NOT NULL);
-- right
SELECT m.name, COUNT(r.flows_into) AS how_many FROM river m LEFT JOIN river r ON r.flows_into = m.id GROUP BY m.id, m.name;
-- right
SELECT m.name, (SELECT COUNT(*) FROM river r WHERE r.flows_into = m.id) AS how_many FROM river m;
-- right
SELECT m.name, COALESCE(t.how_many, 0) AS how_many FROM river m LEFT JOIN (SELECT r.flows_into AS up, COUNT(*) AS how_many FROM river r GROUP BY r.flows_into) t ON t.up = m.id;
-- right
WITH t AS (SELECT r.flows_into AS up, COUNT(*) AS how_many FROM river r WHERE r.flows_into IS NOT NULL GROUP BY r.flows_into HAVING COUNT(*) > 1) SELECT m.name, t.how_many FROM t JOIN river m ON m.id = t.up;
-- right
SELECT r.name FROM river r WHERE r.flows_into IS NOT NULL ORDER BY r.id;
-- right
SELECT r.name FROM river r WHERE r.flows_into IN (SELECT x.id FROM river x WHERE x.name <> 'Nobody');
-- right
SELECT r.flows_into, COUNT(*) AS how_many FROM river r GROUP BY r.flows_into HAVING COUNT(*) >= 1 ORDER BY r.flows_into;
-- right
SELECT r.name, RANK() OVER (PARTITION BY r.flows_into ORDER BY r.name) AS place FROM river r;
-- right
SELECT r.name, m.name AS belongs_to FROM river r JOIN river m ON m.id = r.flows_into WHERE r.flows_into IS NOT NULL AND m.name <> 'Nobody';
-- right
SELECT a.name AS one, b.name AS other FROM river a JOIN river b ON a.flows_into = b.flows_into AND a.id < b.id WHERE a.flows_into IS NOT NULL;
-- right
SELECT DISTINCT r.flows_into FROM river r;
-- right
SELECT w.given_name, m.family_name AS belongs_to FROM warden w LEFT JOIN warden m ON m.id = w.mentor_id;
-- right
SELECT m.family_name FROM warden m WHERE NOT EXISTS (SELECT 1 FROM warden w WHERE w.mentor_id = m.id);
-- right
SELECT m.family_name FROM warden m LEFT JOIN warden w ON w.mentor_id = m.id WHERE w.mentor_id IS NULL;
-- right
SELECT m.family_name FROM warden m WHERE EXISTS (SELECT 1 FROM warden w WHERE w.mentor_id = m.id);
-- right
SELECT m.family_name FROM warden m WHERE m.id IN (SELECT w.mentor_id FROM warden w);
-- right
SELECT m.family_name FROM warden m WHERE m.id NOT IN (SELECT w.mentor_id FROM warden w WHERE w.mentor_id IS NOT NULL);
-- right
SELECT m.family_name, COUNT(w.mentor_id) AS how_many FROM warden m LEFT JOIN warden w ON w.mentor_id = m.id GROUP BY m.id, m.family_name;
-- right
SELECT m.family_name, (SELECT COUNT(*) FROM warden w WHERE w.mentor_id = m.id) AS how_many FROM warden m;
-- right
SELECT m.family_name, COALESCE(t.how_many, 0) AS how_many FROM warden m LEFT JOIN (SELECT w.mentor_id AS up, COUNT(*) AS how_many FROM warden w GROUP BY w.mentor_id) t ON t.up = m.id;
-- right
WITH t AS (SELECT w.mentor_id AS up, COUNT(*) AS how_many FROM warden w WHERE w.mentor_id IS NOT NULL GROUP BY w.mentor_id HAVING COUNT(*) > 1) SELECT m.family_name, t.how_many FROM t JOIN warden m ON m.id = t.up;
-- right
SELECT w.given_name FROM warden w WHERE w.mentor_id IS NOT NULL ORDER BY w.id;
-- right
SELECT w.given_name FROM warden w WHERE w.mentor_id IN (SELECT x.id FROM warden x WHERE x.family_name <> 'Nobody');
-- right
SELECT w.mentor_id, COUNT(*) AS how_many FROM warden w GROUP BY w.mentor_id HAVING COUNT(*) >= 1 ORDER BY w.mentor_id;
-- right
SELECT w.given_name, RANK() OVER (PARTITION BY w.mentor_id ORDER BY w.given_name) AS place FROM warden w;
-- right
SELECT w.given_name, m.family_name AS belongs_to FROM warden w JOIN warden m ON m.id = w.mentor_id WHERE w.mentor_id IS NOT NULL AND m.family_name <> 'Nobody';
-- right
SELECT a.given_name AS one, b.given_name AS other FROM warden a JOIN warden b ON a.mentor_id = b.mentor_id AND a.id < b.id WHERE a.mentor_id IS NOT NULL;
-- right
SELECT DISTINCT w.mentor_id FROM warden w;
-- right
SELECT g.name, w.name AS belongs_to FROM species_group g LEFT JOIN species_group w ON w.id = g.within_id;
-- right
SELECT w.name FROM species_group w WHERE NOT EXISTS (SELECT 1 FROM species_group g WHERE g.within_id = w.id);
-- right
SELECT w.name FROM species_group w LEFT JOIN species_group g ON g.within_id = w.id WHERE g.within_id IS NULL;
-- right
SELECT w.name FROM species_group w WHERE EXISTS (SELECT 1 FROM species_group g WHERE g.within_id = w.id);
-- right
SELECT w.name FROM species_group w WHERE w.id IN (SELECT g.within_id FROM species_group g);
-- right
SELECT w.name FROM species_group w WHERE w.id NOT IN (SELECT g.within_id FROM species_group g WHERE g.within_id IS NOT NULL);
-- right
SELECT w.name, COUNT(g.within_id) AS how_many FROM species_group w LEFT JOIN species_group g ON g.within_id = w.id GROUP BY w.id, w.name;
-- right
SELECT w.name, (SELECT COUNT(*) FROM species_group g WHERE g.within_id = w.id) AS how_many FROM species_group w;
-- right
SELECT w.name, COALESCE(t.how_many, 0) AS how_many FROM species_group w LEFT JOIN (SELECT g.within_id AS up, COUNT(*) AS how_many FROM species_group g GROUP BY g.within_id) t ON t.up = w.id;
-- right
WITH t AS (SELECT g.within_id AS up, COUNT(*) AS how_many FROM species_group g WHERE g.within_id IS NOT NULL GROUP BY g.within_id HAVING COUNT(*) > 1) SELECT w.name, t.how_many FROM t JOIN species_group w ON w.id = t.up;
-- right
SELECT g.name FROM species_group g WHERE g.within_id IS NOT NULL ORDER BY g.id;
-- right
SELECT g.name FROM species_group g WHERE g.within_id IN (SELECT x.id FROM species_group x WHERE x.name <> 'Nobody');
-- right
SELECT g.within_id, COUNT(*) AS how_many FROM species_group g GROUP BY g.within_id HAVING COUNT(*) >= 1 ORDER BY g.within_id;
-- right
SELECT g.name, RANK() OVER (PARTITION BY g.within_id ORDER BY g.name) AS place FROM species_group g;
-- right
SELECT g.name, w.name AS belongs_to FROM species_group g JOIN species_group w ON w.id = g.within_id WHERE g.within_id IS NOT NULL AND w.name <> 'Nobody';
-- right
SELECT a.name AS one, b.name AS other FROM species_group a JOIN species_group b ON a.within_id = b.within_id AND a.id < b.id WHERE a.within_id IS NOT NULL;
-- right
SELECT DISTINCT g.within_id FROM species_group g;
-- right
SELECT s.name, s.capacity FROM station s ORDER BY s.capacity DESC, s.id LIMIT 3;
-- right
SELECT s.name, COALESCE(k.family_name, 'nobody') AS keeper FROM station s LEFT JOIN warden k ON k.id = s.keeper_id;
-- right
SELECT s.name FROM station s LEFT JOIN warden k ON k.id = s.keeper_id WHERE k.family_name = 'Harrow' OR k.id IS NULL;
-- right
SELECT s.name, d.taken_at, d.temperature FROM station s LEFT JOIN reading d ON d.station_id = s.id AND d.taken_at >= TIMESTAMP '2026-06-01 00:00:00';
-- right
SELECT s.name, MAX(d.taken_at) AS latest FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name;
-- right
SELECT s.name, d.taken_at, d.depth_cm FROM station s LEFT JOIN reading d ON d.station_id = s.id AND d.taken_at = (SELECT MAX(x.taken_at) FROM reading x WHERE x.station_id = s.id);
-- right
SELECT r.name, f.name AS flows_into FROM river r LEFT JOIN river f ON f.id = r.flows_into;
-- right
SELECT r.name, f.name AS flows_into FROM river r JOIN river f ON f.id = r.flows_into WHERE r.flows_into IS NOT NULL;
-- right
SELECT w.given_name, COUNT(p.id) AS pupils FROM warden w LEFT JOIN warden p ON p.mentor_id = w.id GROUP BY w.id, w.given_name;
-- right
WITH RECURSIVE down AS (SELECT r.id, r.name, 0 AS depth FROM river r WHERE r.flows_into IS NULL UNION ALL SELECT r.id, r.name, down.depth + 1 FROM river r JOIN down ON r.flows_into = down.id) SELECT down.name, down.depth FROM down;
-- right
WITH RECURSIVE up AS (SELECT r.id, r.name, r.flows_into FROM river r WHERE r.name = 'Pellow Brook' UNION ALL SELECT r.id, r.name, r.flows_into FROM river r JOIN up ON r.id = up.flows_into) SELECT up.name FROM up;
-- right
WITH RECURSIVE n AS (SELECT 1 AS i UNION ALL SELECT n.i + 1 FROM n WHERE n.i < 12) SELECT n.i FROM n;
-- right
WITH RECURSIVE path AS (SELECT w.id, w.family_name AS line FROM warden w WHERE w.mentor_id IS NULL UNION ALL SELECT w.id, path.line || ' > ' || w.family_name FROM warden w JOIN path ON w.mentor_id = path.id) SELECT path.line FROM path;
-- right
SELECT p.name, g.name AS species_group, w.name AS wider FROM species p JOIN species_group g ON g.id = p.group_id LEFT JOIN species_group w ON w.id = g.within_id;
-- right
SELECT s.name, p.name AS species, o.head_count FROM sighting o JOIN station s ON s.id = o.station_id JOIN species p ON p.id = o.species_id;
-- right
SELECT p.name, SUM(o.head_count) AS heads FROM species p JOIN sighting o ON o.species_id = p.id WHERE o.seen_on >= DATE '2026-01-01' GROUP BY p.id, p.name ORDER BY heads DESC, p.name;
-- right
SELECT p.name, COALESCE(SUM(o.head_count), 0) AS heads FROM species p LEFT JOIN sighting o ON o.species_id = p.id GROUP BY p.id, p.name;
-- right
SELECT s.bank, COUNT(*) AS stations, AVG(s.capacity) AS mean FROM station s GROUP BY s.bank;
-- right
SELECT b.label, COUNT(s.id) AS stations FROM bank_kind b LEFT JOIN station s ON s.bank = b.code GROUP BY b.label;
-- right
SELECT g.name, COUNT(p.id) AS species FROM species_group g LEFT JOIN species p ON p.group_id = g.id GROUP BY g.name;
-- right
SELECT COUNT(*) AS stations, COUNT(s.keeper_id) AS kept FROM station s;
-- right
SELECT COUNT(*) AS n FROM station s JOIN reading d ON d.station_id = s.id;
-- right
SELECT COUNT(DISTINCT d.station_id) AS watched FROM reading d;
-- right
SELECT s.name FROM station s CROSS JOIN (SELECT AVG(x.capacity) AS mean FROM station x) m WHERE s.capacity > m.mean;
-- right
SELECT s.name FROM station s WHERE s.capacity > (SELECT AVG(x.capacity) FROM station x);
-- right
SELECT s.name FROM station s WHERE s.capacity > (SELECT AVG(x.capacity) FROM station x WHERE x.river_id = s.river_id);
-- right
SELECT s.name, s.capacity - (SELECT AVG(x.capacity) FROM station x) AS beyond FROM station s;
-- right
SELECT s.name, ROW_NUMBER() OVER (PARTITION BY s.river_id ORDER BY s.capacity DESC, s.id) AS place FROM station s;
-- right
SELECT q.name FROM (SELECT s.name, ROW_NUMBER() OVER (PARTITION BY s.river_id ORDER BY s.capacity DESC, s.id) AS place FROM station s) q WHERE q.place = 1;
-- right
SELECT d.station_id, d.taken_at, d.depth_cm - LAG(d.depth_cm) OVER (PARTITION BY d.station_id ORDER BY d.taken_at) AS change FROM reading d;
-- right
SELECT d.id, SUM(d.depth_cm) OVER (PARTITION BY d.station_id ORDER BY d.taken_at) AS so_far FROM reading d;
-- right
SELECT s.name FROM station s WHERE s.bank IN ('R', 'S') AND s.capacity BETWEEN 4 AND 9;
-- right
SELECT s.name FROM station s WHERE (s.bank = 'R' OR s.bank = 'S') AND s.capacity > 4;
-- right
SELECT s.name FROM station s WHERE s.bank = 'R' OR (s.bank = 'S' AND s.capacity > 8);
-- right
SELECT s.name FROM station s WHERE s.bank <> 'R' AND s.bank <> 'S';
-- right
SELECT s.name FROM station s WHERE s.bank NOT IN ('R', 'S') OR s.bank IS NULL;
-- right
SELECT s.name FROM station s WHERE s.bank IS DISTINCT FROM 'R';
-- right
SELECT s.name FROM station s WHERE NOT (s.capacity < 5);
-- right
SELECT s.name FROM station s WHERE COALESCE(s.bank, 'none') = 'none';
-- right
SELECT s.name, CASE WHEN s.keeper_id IS NULL THEN 'free' ELSE 'kept' END AS state FROM station s;
-- right
SELECT s.name, CASE s.bank WHEN 'R' THEN 'reeds' WHEN 'W' THEN 'wall' ELSE 'other' END AS bank FROM station s;
-- right
SELECT r.name, SUM(CASE WHEN s.bank = 'R' THEN 1 ELSE 0 END) AS reeds FROM river r LEFT JOIN station s ON s.river_id = r.id GROUP BY r.id, r.name;
-- right
SELECT r.name, COUNT(s.id) FILTER (WHERE s.bank = 'R') AS reeds FROM river r LEFT JOIN station s ON s.river_id = r.id GROUP BY r.id, r.name;
-- right
SELECT r.name, COUNT(DISTINCT s.id) AS stations, COUNT(d.id) AS readings FROM river r LEFT JOIN station s ON s.river_id = r.id LEFT JOIN reading d ON d.station_id = s.id GROUP BY r.id, r.name;
-- right
SELECT s.name, COUNT(DISTINCT d.id) AS readings, COUNT(DISTINCT o.species_id) AS species FROM station s LEFT JOIN reading d ON d.station_id = s.id LEFT JOIN sighting o ON o.station_id = s.id GROUP BY s.id, s.name;
-- right
SELECT s.name, MIN(d.depth_cm) AS least, MAX(o.head_count) AS most FROM station s LEFT JOIN reading d ON d.station_id = s.id LEFT JOIN sighting o ON o.station_id = s.id GROUP BY s.id, s.name;
-- right
SELECT s.name, d.n AS readings, o.n AS sightings FROM station s LEFT JOIN (SELECT station_id, COUNT(*) AS n FROM reading GROUP BY station_id) d ON d.station_id = s.id LEFT JOIN (SELECT station_id, COUNT(*) AS n FROM sighting GROUP BY station_id) o ON o.station_id = s.id;
-- right
SELECT DISTINCT r.name, s.bank FROM river r LEFT JOIN station s ON s.river_id = r.id;
-- right
SELECT s.name FROM station s UNION ALL SELECT r.name FROM river r;
-- right
SELECT s.river_id FROM station s WHERE s.river_id IS NOT NULL INTERSECT SELECT r.flows_into FROM river r;
-- right
SELECT r.id FROM river r EXCEPT SELECT s.river_id FROM station s;
-- right
SELECT 'station' AS what, s.name FROM station s UNION ALL SELECT 'river', r.name FROM river r ORDER BY 1, 2;
-- right
SELECT k.given_name || ' ' || k.family_name AS full_name FROM warden k;
-- right
SELECT k.given_name || COALESCE(' (pupil of ' || m.given_name || ')', '') AS label FROM warden k LEFT JOIN warden m ON m.id = k.mentor_id;
-- right
SELECT 'no. ' || s.id || ': ' || s.name AS label FROM station s;
-- right
SELECT d.id, d.temperature * 9 / 5 + 32 AS fahrenheit FROM reading d WHERE d.temperature IS NOT NULL;
-- right
SELECT d.id, d.depth_cm / 100.0 AS metres FROM reading d;
-- right
SELECT s.name FROM station s JOIN river r ON r.id = s.river_id AND r.length_km > 50;
-- right
SELECT s.name, r.name AS river FROM station s FULL JOIN river r ON r.id = s.river_id;
-- right
SELECT COALESCE(s.name, '(no station)') AS station, COALESCE(r.name, '(no river)') AS river FROM station s FULL JOIN river r ON r.id = s.river_id ORDER BY 1, 2;
-- right
SELECT r.name, s.name AS station FROM station s RIGHT JOIN river r ON r.id = s.river_id;
-- right
SELECT s.name, o.species_id FROM station s JOIN sighting o ON o.station_id = s.id AND o.head_count > 5 WHERE s.capacity > 3;
-- right
SELECT a.station_id, a.species_id AS one, b.species_id AS other FROM sighting a JOIN sighting b ON b.station_id = a.station_id AND b.seen_on = a.seen_on AND a.species_id < b.species_id;
-- right
SELECT a.station_id FROM sighting a JOIN sighting b ON b.station_id = a.station_id WHERE a.species_id = 1 AND b.species_id = 4;
-- right
SELECT d.id, e.id AS next_id FROM reading d LEFT JOIN reading e ON e.station_id = d.station_id AND e.taken_at > d.taken_at AND NOT EXISTS (SELECT 1 FROM reading x WHERE x.station_id = d.station_id AND x.taken_at > d.taken_at AND x.taken_at < e.taken_at);
-- right
SELECT a.name, b.name AS larger FROM station a JOIN station b ON b.capacity > a.capacity AND b.river_id = a.river_id;
-- right
SELECT s.name, n.i FROM station s CROSS JOIN (SELECT 1 AS i UNION ALL SELECT 2) n;
-- right
SELECT b.label, r.name FROM bank_kind b CROSS JOIN river r;
-- right
SELECT s.name FROM station s WHERE EXISTS (SELECT 1 FROM reading d WHERE d.station_id = s.id AND d.temperature > 15) AND NOT EXISTS (SELECT 1 FROM sighting o WHERE o.station_id = s.id);
-- right
SELECT r.name FROM river r WHERE NOT EXISTS (SELECT 1 FROM station s WHERE s.river_id = r.id AND s.bank IS NULL);
-- right
SELECT r.name FROM river r WHERE (SELECT COUNT(*) FROM station s WHERE s.river_id = r.id) > 1;
-- right
SELECT r.name FROM river r LEFT JOIN station s ON s.river_id = r.id GROUP BY r.id, r.name HAVING COUNT(s.id) = 0;
-- right
SELECT k.family_name, k.given_name FROM warden k WHERE k.id IN (SELECT s.keeper_id FROM station s GROUP BY s.keeper_id HAVING COUNT(*) > 1);
-- right
SELECT s.name FROM station s WHERE s.id = (SELECT d.station_id FROM reading d ORDER BY d.depth_cm DESC, d.id LIMIT 1);
-- right
SELECT s.name, (SELECT d.depth_cm FROM reading d WHERE d.station_id = s.id ORDER BY d.taken_at DESC, d.id LIMIT 1) AS last_depth FROM station s;
-- right
SELECT s.name, l.taken_at FROM station s LEFT JOIN LATERAL (SELECT d.taken_at FROM reading d WHERE d.station_id = s.id ORDER BY d.taken_at DESC, d.id LIMIT 1) l ON TRUE;
-- right
SELECT * FROM station s;
-- right
SELECT s.*, r.name AS river FROM station s LEFT JOIN river r ON r.id = s.river_id;
-- right
SELECT name, capacity FROM station WHERE capacity > 5 ORDER BY name;
-- right
SELECT name FROM station WHERE river_id IS NULL;
-- right
SELECT COUNT(*) AS n FROM reading WHERE temperature IS NULL;
-- right
SELECT station.name, river.name AS river FROM station LEFT JOIN river ON river.id = station.river_id;
-- right
SELECT s.name FROM station s, river r WHERE r.id = s.river_id AND r.name = 'Ombrel';
-- right
SELECT s.name, k.family_name FROM station s, warden k WHERE s.keeper_id = k.id AND k.family_name = 'Harrow';
-- right
SELECT s.name AS station, r.name AS river, k.family_name AS keeper, b.label AS bank FROM station s LEFT JOIN river r ON r.id = s.river_id LEFT JOIN warden k ON k.id = s.keeper_id LEFT JOIN bank_kind b ON b.code = s.bank;
-- right
SELECT d.taken_at, s.name AS station, r.name AS river FROM reading d LEFT JOIN station s ON s.id = d.station_id LEFT JOIN river r ON r.id = s.river_id;
-- right
SELECT r.name, AVG(d.temperature) AS mean FROM reading d JOIN station s ON s.id = d.station_id JOIN river r ON r.id = s.river_id WHERE s.river_id IS NOT NULL AND d.temperature IS NOT NULL AND d.station_id < 90 GROUP BY r.id, r.name;
-- right
SELECT r.id, r.name, t.c FROM river r LEFT JOIN (SELECT s.river_id, SUM(s.capacity) AS c FROM station s GROUP BY s.river_id) t ON t.river_id = r.id;
-- right
SELECT DATE '2026-01-01' AS day, COUNT(*) AS n FROM reading d WHERE d.taken_at >= TIMESTAMP '2026-01-01 00:00:00';
-- right
SELECT CAST(d.taken_at AS DATE) AS day, COUNT(*) AS n FROM reading d GROUP BY CAST(d.taken_at AS DATE);
-- right
SELECT EXTRACT(YEAR FROM d.taken_at) AS year, AVG(d.depth_cm) AS depth FROM reading d GROUP BY EXTRACT(YEAR FROM d.taken_at);
-- right
SELECT UPPER(k.family_name) AS name FROM warden k WHERE LOWER(k.given_name) LIKE 'a%';
-- right
SELECT s.name FROM station s WHERE s.name LIKE '%Weir' OR s.name LIKE '%Lock';
-- right
SELECT NULLIF(s.bank, 'R') AS bank FROM station s;
-- right
SELECT 1 AS one;
-- right
SELECT s.name FROM station s WHERE 1 = 1 AND s.capacity > 3;
-- right
SELECT s.capacity, COUNT(*) AS n FROM station s GROUP BY s.capacity HAVING COUNT(*) > 1;
-- right
SELECT s.name FROM (SELECT x.name, x.capacity FROM station x WHERE x.bank = 'R') s WHERE s.capacity > 5;
-- right
WITH reeds AS (SELECT s.id, s.name FROM station s WHERE s.bank = 'R') SELECT reeds.name, COUNT(d.id) AS readings FROM reeds LEFT JOIN reading d ON d.station_id = reeds.id GROUP BY reeds.id, reeds.name;
-- right
WITH per AS (SELECT d.station_id, AVG(d.depth_cm) AS depth FROM reading d GROUP BY d.station_id), whole AS (SELECT AVG(d.depth_cm) AS depth FROM reading d) SELECT per.station_id FROM per CROSS JOIN whole WHERE per.depth > whole.depth;
-- right
SELECT s.name, d.id FROM station s LEFT JOIN (SELECT x.id, x.station_id FROM reading x WHERE x.temperature > 15) d ON d.station_id = s.id;
-- right
SELECT s.name FROM station s WHERE s.id IN (SELECT d.station_id FROM reading d GROUP BY d.station_id HAVING MAX(d.depth_cm) > 200);
-- right
SELECT s.name FROM station s WHERE s.capacity >= ALL (SELECT x.capacity FROM station x);
-- right
SELECT s.name FROM station s WHERE s.keeper_id = ANY (SELECT k.id FROM warden k WHERE k.mentor_id = 1);
-- right
SELECT g.name FROM species_group g WHERE g.within_id IS NULL;
-- right
SELECT g.name, c.name AS narrower FROM species_group g JOIN species_group c ON c.within_id = g.id WHERE g.within_id IS NULL AND g.id IN (1, 4, 6);
-- right
SELECT m.given_name AS mentor, p.given_name AS pupil FROM warden m JOIN warden p ON p.mentor_id = m.id WHERE p.mentor_id IS NOT NULL AND m.id < 7;
-- right
SELECT e.given_name, e.family_name FROM warden e JOIN warden m ON m.id = e.mentor_id WHERE e.mentor_id IS NOT NULL AND e.id > m.id;
-- right
SELECT r.name FROM river r JOIN river f ON f.id = r.flows_into WHERE r.flow > f.flow;
-- right
SELECT r.name FROM river r WHERE r.flow > (SELECT f.flow FROM river f WHERE f.id = r.flows_into);
-- right
SELECT d.station_id, COUNT(d.id) * 100.0 / AVG(t.total) AS share FROM (SELECT COUNT(*) AS total FROM reading) t CROSS JOIN reading d GROUP BY d.station_id;
-- right
SELECT d.station_id, COUNT(d.id) * 100.0 / MAX(t.total) AS share FROM (SELECT COUNT(*) AS total FROM reading) t CROSS JOIN reading d GROUP BY d.station_id;
-- right
SELECT s.name, UPPER(k.given_name || ' ' || k.family_name) AS keeper FROM station s LEFT JOIN warden k ON k.id = s.keeper_id;
-- right
SELECT s.name, COALESCE(LOWER(r.name || ' / ' || s.bank), '-') AS place FROM station s LEFT JOIN river r ON r.id = s.river_id;
-- right
SELECT UPPER('the ' || m.family_name) AS title FROM warden w LEFT JOIN warden m ON m.id = w.mentor_id;
-- right
SELECT depth_cm.name FROM station depth_cm WHERE NOT EXISTS (SELECT 1 FROM reading d WHERE d.station_id = depth_cm.id);
-- right
SELECT g.species_id, SUM(g.head_count * s.capacity) AS weight FROM sighting g JOIN station s ON s.id = g.station_id GROUP BY g.species_id;
-- right
SELECT s.id, s.name, SUM(CASE WHEN d.temperature > 15 THEN 1 ELSE 0 END) AS warm, COUNT(d.id) AS readings FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name;
-- right
SELECT s.river_id, COUNT(*) AS stations FROM station s WHERE s.river_id IS NOT NULL GROUP BY s.river_id;
-- right
SELECT d.station_id, COUNT(*) AS readings, MAX(s.capacity) AS capacity FROM reading d LEFT JOIN station s ON s.id = d.station_id GROUP BY d.station_id;
-- right
SELECT d.station_id, SUM(d.id + COALESCE(d.depth_cm, 0)) AS odd FROM reading d GROUP BY d.station_id;
-- right
SELECT d.station_id, SUM(d.depth_cm + 10) AS lifted FROM reading d GROUP BY d.station_id;
-- right
SELECT s.id, SUM(CASE WHEN g.species_id = 1 THEN g.head_count ELSE 0 END) AS first_kind, SUM(CASE WHEN g.species_id = 2 THEN g.head_count ELSE 0 END) AS second_kind FROM station s LEFT JOIN sighting g ON g.station_id = s.id GROUP BY s.id;
-- right
SELECT s.id FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id HAVING SUM(d.depth_cm) > 100;
-- right
SELECT s.id FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id HAVING COALESCE(SUM(d.depth_cm), 0) < 100;
-- right
SELECT s.id FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id HAVING COUNT(d.id) < 2;
-- right
SELECT s.name, m.capacity FROM station s JOIN (SELECT x.river_id, MAX(x.capacity) AS capacity FROM station x GROUP BY x.river_id) m ON m.river_id = s.river_id AND m.capacity = s.capacity WHERE s.river_id IS NOT NULL;
-- right
SELECT q.station_id, q.id FROM (SELECT d.station_id, d.id, ROW_NUMBER() OVER (PARTITION BY d.station_id ORDER BY d.taken_at DESC, d.id) AS nth FROM reading d) q WHERE q.nth = 1;
-- right
SELECT q.station_id, q.id FROM (SELECT d.station_id, d.id, RANK() OVER (PARTITION BY d.station_id ORDER BY d.taken_at DESC) AS nth FROM reading d) q WHERE q.nth = 1;
-- right
SELECT COUNT(*) AS n FROM (SELECT s.id FROM station s WHERE s.bank = 'R' UNION SELECT s.id FROM station s WHERE s.bank = 'S') u;
-- right
SELECT COUNT(DISTINCT u.capacity) AS n FROM (SELECT s.capacity FROM station s UNION SELECT s.capacity FROM station s) u;
-- right
SELECT r.name, s.id FROM river r LEFT JOIN station s ON s.river_id = r.id AND s.keeper_id IS NULL;
-- right
SELECT r.id, SUM(s.capacity) AS capacity FROM river r LEFT JOIN station s ON s.river_id = r.id AND s.keeper_id IS NULL GROUP BY r.id;
-- right
SELECT s.name, k.family_name FROM station s LEFT JOIN warden k ON k.id = s.keeper_id WHERE k.id > 4 OR k.id IS NULL;
-- right
SELECT s.bank FROM station s LEFT JOIN sighting g ON g.station_id = s.id WHERE g.station_id IS NULL;
-- right
SELECT k.given_name FROM warden k LEFT JOIN station s ON s.keeper_id = k.id WHERE s.keeper_id IS NULL;
-- right
SELECT k.family_name FROM warden k JOIN station s ON s.keeper_id = k.id WHERE s.id IN (2, 5);
-- right
SELECT r.name FROM river r WHERE EXISTS (SELECT MAX(s.capacity) FROM station s WHERE s.river_id = r.id GROUP BY s.bank);
-- right
SELECT r.name FROM river r WHERE EXISTS (SELECT COUNT(*) FROM station s WHERE s.river_id = r.id HAVING COUNT(*) > 1);
-- right
SELECT s.bank FROM station s WHERE s.bank IS NOT NULL GROUP BY s.bank HAVING COUNT(*) > 1;
-- right
SELECT s.name FROM station s WHERE s.capacity >= ALL (SELECT x.capacity FROM station x);
-- right
SELECT s.river_id, s.name FROM station s JOIN (SELECT x.river_id, MAX(x.capacity) AS top FROM station x WHERE x.river_id IS NOT NULL GROUP BY x.river_id) m ON m.river_id = s.river_id AND m.top = s.capacity;
-- right
WITH RECURSIVE way_up (start_id, row_id, steps) AS (SELECT t.id, t.id, 0 FROM river t WHERE t.id IN (4, 8) UNION ALL SELECT u.start_id, t.flows_into, u.steps + 1 FROM way_up u JOIN river t ON t.id = u.row_id WHERE t.flows_into IS NOT NULL AND u.steps < 50) SELECT r.name, a.steps + b.steps AS distance FROM way_up a JOIN way_up b ON b.row_id = a.row_id JOIN river r ON r.id = a.row_id WHERE a.start_id = 4 AND b.start_id = 8 ORDER BY distance LIMIT 1;
-- right
SELECT q.what, r.name FROM (SELECT r.id AS place, 'river' AS what FROM river r UNION ALL SELECT s.river_id, 'station' FROM station s WHERE s.river_id IS NOT NULL) q JOIN river r ON r.id = q.place;
-- right
SELECT s.name, COALESCE(q.deepest, 0) AS deepest FROM river s LEFT JOIN (SELECT t.river_id, MAX(d.depth_cm) AS deepest FROM station t JOIN reading d ON d.station_id = t.id GROUP BY t.river_id) q ON q.river_id = s.id;
-- right
SELECT w.id, w.family_name, COUNT(m.id) AS mentored FROM warden w LEFT JOIN warden m ON m.mentor_id = w.id GROUP BY w.id, w.family_name ORDER BY mentored DESC, w.id;

-- right
SELECT s.bank, COUNT(CASE WHEN s.capacity > 8 THEN 1 END) AS large, SUM(CASE WHEN s.capacity > 8 THEN 1 ELSE 0 END) AS again FROM station s GROUP BY s.bank;
-- right
SELECT r.id, r.name, COUNT(CASE WHEN s.capacity > 8 THEN s.id ELSE NULL END) AS large FROM river r LEFT JOIN station s ON s.river_id = r.id GROUP BY r.id, r.name;
-- right
SELECT s.bank, COUNT(DISTINCT CASE WHEN s.capacity > 8 THEN 'large' ELSE 'small' END) AS sizes FROM station s GROUP BY s.bank;
-- right
SELECT s.id, s.name, MAX(r.name) AS river, COUNT(r.id) AS known FROM station s LEFT JOIN river r ON r.id = s.river_id GROUP BY s.id, s.name;
-- right
SELECT s.id, s.name, SUM(CASE WHEN s.bank = 'W' THEN s.capacity ELSE 0 END) AS west FROM station s GROUP BY s.id, s.name;
-- right
SELECT g.station_id, g.species_id, COUNT(*) AS days FROM sighting g GROUP BY g.station_id, g.species_id;
-- right
SELECT w.id, w.mentor_id FROM warden w WHERE w.mentor_id IS NOT NULL UNION ALL SELECT v.mentor_id, v.id FROM warden v WHERE v.mentor_id IS NOT NULL;
-- right
WITH pairs (one, other) AS (SELECT w.id, w.mentor_id FROM warden w WHERE w.mentor_id IS NOT NULL) SELECT p.one, p.other FROM pairs p UNION ALL SELECT q.other, q.one FROM pairs q;
-- right
SELECT s.name, (SELECT d.depth_cm FROM reading d WHERE d.station_id = s.id ORDER BY d.depth_cm DESC LIMIT 1) AS deepest FROM station s;
-- right
SELECT s.name, (SELECT d.depth_cm FROM reading d WHERE d.station_id = s.id ORDER BY d.taken_at DESC, d.id DESC LIMIT 1) AS latest FROM station s;
-- right
SELECT x.id, SUM(x.capacity) AS places, x.seen_on FROM (SELECT s.id, s.capacity, g.seen_on FROM station s LEFT JOIN sighting g ON g.station_id = s.id AND g.species_id = 1) x GROUP BY x.id, x.seen_on;
-- right
SELECT x.river_id, SUM(x.capacity) AS places FROM (SELECT s.river_id, s.capacity, r.name FROM station s LEFT JOIN river r ON r.id = s.river_id) x GROUP BY x.river_id;
-- right
SELECT r.name FROM river r EXCEPT SELECT r.name FROM river r JOIN station s ON s.river_id = r.id;
-- right
SELECT q.name FROM (SELECT r.name FROM river r JOIN station s ON s.river_id = r.id UNION SELECT w.family_name FROM warden w) q;
-- right
SELECT d.id, q.name FROM reading d JOIN (SELECT s.id, s.name FROM station s WHERE s.bank = 'W') q ON q.id = d.station_id;
-- right
WITH x AS (SELECT s.id, s.river_id, s.capacity, ROW_NUMBER() OVER (PARTITION BY s.id ORDER BY d.id) AS seq FROM station s LEFT JOIN reading d ON d.station_id = s.id) SELECT x.river_id, COUNT(*) AS readings, SUM(CASE WHEN x.seq = 1 THEN x.capacity END) AS places FROM x GROUP BY x.river_id;
-- right
SELECT x.river_id, SUM(CASE x.seq WHEN 1 THEN x.capacity ELSE 0 END) AS places FROM (SELECT s.id, s.river_id, s.capacity, ROW_NUMBER() OVER (PARTITION BY s.id ORDER BY d.id) AS seq FROM station s LEFT JOIN reading d ON d.station_id = s.id) x GROUP BY x.river_id;

-- right
SELECT s.name FROM station s LEFT JOIN reading d ON d.station_id = s.id AND d.depth_cm > 100000 WHERE d.id IS NULL;
-- right
SELECT r.name FROM river r WHERE NOT EXISTS (SELECT 1 FROM station s WHERE s.river_id = r.id AND s.bank = 'X');
-- right
SELECT s.name, CASE WHEN EXISTS (SELECT 1 FROM reading d WHERE d.station_id = s.id AND d.depth_cm > 100000) THEN 'high' ELSE 'usual' END AS water FROM station s;
-- right
SELECT s.name FROM station s EXCEPT SELECT s.name FROM station s WHERE s.capacity > 100000;
-- right
SELECT COUNT(*) AS n FROM reading d WHERE d.depth_cm > 100000;
-- right
SELECT s.name, (SELECT COUNT(*) FROM reading d WHERE d.station_id = s.id AND d.depth_cm > 100000) AS floods FROM station s;
-- right
SELECT s.name, FIRST_VALUE(s.capacity) OVER (PARTITION BY s.bank ORDER BY s.capacity) AS least FROM station s;
-- right
SELECT s.name, FIRST_VALUE(s.name) OVER (PARTITION BY s.bank ORDER BY s.capacity, s.id) AS smallest FROM station s;
-- right
SELECT x.seen_on, p.name, q.name AS rarer FROM sighting x JOIN sighting y ON y.station_id = x.station_id AND y.seen_on = x.seen_on AND y.species_id <> x.species_id AND y.head_count < x.head_count JOIN species p ON p.id = x.species_id JOIN species q ON q.id = y.species_id;
-- right
SELECT DISTINCT q.name FROM sighting x JOIN sighting y ON y.station_id = x.station_id AND y.species_id <> x.species_id JOIN species p ON p.id = x.species_id JOIN species q ON q.id = y.species_id WHERE p.name = 'brook duck';
-- right
SELECT k.given_name FROM warden k WHERE k.id = ANY (SELECT s.keeper_id FROM station s);
-- right
SELECT d.station_id, d.taken_at, d.depth_cm FROM reading d JOIN (SELECT x.station_id, MAX(x.id) AS last_id FROM reading x GROUP BY x.station_id) l ON l.last_id = d.id;
-- right
SELECT k.given_name FROM warden k WHERE k.id > SOME (SELECT s.keeper_id FROM station s);
-- right
SELECT SUM(q.depth * 2) AS total FROM (SELECT s.capacity AS room, d.depth_cm + 0 AS depth FROM station s JOIN reading d ON d.station_id = s.id) q;
-- right
SELECT q.depth, SUM(q.room) AS rooms FROM (SELECT s.capacity + 1 AS room, d.depth_cm AS depth FROM station s JOIN reading d ON d.station_id = s.id) q GROUP BY q.depth;
-- right
WITH lines AS (SELECT s.id, s.capacity AS room, d.depth_cm FROM station s LEFT JOIN reading d ON d.station_id = s.id), once AS (SELECT DISTINCT l.id, l.room FROM lines l) SELECT SUM(o.room) AS rooms FROM once o;
-- right
SELECT s.name, SUM(CASE WHEN d.temperature IS NOT NULL THEN 1 ELSE 0 END) AS measured FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name;
-- right
SELECT s.bank, SUM(CASE WHEN d.id IS NULL THEN 1 ELSE 0 END) AS without_readings FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.bank;
-- right
SELECT s.name, COUNT(CASE WHEN d.temperature IS NULL THEN d.id END) AS unmeasured FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name;
-- right
SELECT s.name, COUNT(CASE WHEN d.temperature IS NULL AND d.id IS NOT NULL THEN 1 END) AS unmeasured FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name;
-- right
SELECT s.name, ROW_NUMBER() OVER () AS line FROM station s;
-- right
SELECT d.id, LAG(d.depth_cm) OVER (PARTITION BY d.station_id ORDER BY d.taken_at, d.id) AS before_it, COUNT(*) OVER (PARTITION BY d.station_id) AS n FROM reading d;
-- right
SELECT s.bank, COUNT(DISTINCT h.id) AS rivers_below FROM station s LEFT JOIN river r ON r.id = s.river_id LEFT JOIN river h ON h.id = r.flows_into GROUP BY s.bank;
-- right
SELECT w.given_name, COUNT(p.id) AS pupils, COUNT(DISTINCT p.family_name) AS names FROM warden w LEFT JOIN warden p ON p.mentor_id = w.id GROUP BY w.id, w.given_name;
-- right
SELECT COUNT(DISTINCT s.name || COALESCE(s.bank, '')) AS places FROM station s;
-- right
SELECT s.name, w.given_name AS other_warden FROM station s JOIN station t ON t.river_id = s.river_id AND t.id < s.id LEFT JOIN warden w ON w.id = t.keeper_id AND w.id <> s.keeper_id;
-- right
SELECT w.given_name, v.given_name AS later FROM warden w JOIN warden v ON v.id > w.id;

-- right
SELECT s.id, COUNT(d.id) AS readings FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id;
-- right
SELECT s.name, r.id AS river FROM station s LEFT JOIN river r ON r.id = s.river_id;
-- right
SELECT s.id, d.station_id AS found FROM station s LEFT JOIN reading d ON d.station_id = s.id ORDER BY s.id, d.id;
-- right
SELECT r.name FROM river r WHERE r.flows_into <> 6 OR r.flows_into IS NULL;
-- right
SELECT d.id, d.depth_cm FROM reading d WHERE EXISTS (SELECT 1 FROM reading x WHERE x.station_id = d.station_id HAVING MAX(x.depth_cm) = d.depth_cm);
-- right
SELECT d.id, d.depth_cm FROM reading d WHERE d.id IN (SELECT MAX(x.id) FROM reading x GROUP BY x.station_id);
-- right
SELECT s.name, COUNT(DISTINCT g.species_id) AS species FROM station s LEFT JOIN sighting g ON g.station_id = s.id GROUP BY s.id, s.name;
-- right
SELECT s.name FROM station s WHERE s.capacity IN (SELECT MAX(x.capacity) FROM station x WHERE x.capacity < 10 GROUP BY x.river_id) AND s.capacity < 10 AND s.id IN (2, 6);
-- right
SELECT s.name FROM station s WHERE s.capacity IN (SELECT MIN(x.capacity) FROM station x WHERE x.capacity > 4 GROUP BY x.river_id HAVING COUNT(*) > 1) AND s.id IN (2, 9);
-- right
SELECT COUNT(DISTINCT s.capacity) AS sizes, MAX(DISTINCT s.capacity) AS most FROM station s;

-- right
SELECT s.name, k.label FROM (SELECT id, name, CASE WHEN id < 4 THEN LOWER(bank) ELSE bank END AS side FROM station) s LEFT JOIN bank_kind k ON k.code = UPPER(s.side) ORDER BY s.id;
-- right
SELECT s.name, k.label FROM (SELECT id, name, TRIM(bank) AS side FROM station) s LEFT JOIN bank_kind k ON LOWER(k.code) = LOWER(s.side) ORDER BY s.id;
-- right
SELECT s.name, k.label FROM (SELECT id, name, bank AS side FROM station) s LEFT JOIN bank_kind k ON k.code = s.side ORDER BY s.id;
-- right
SELECT SUM(q.total) / SUM(q.n) AS usual FROM (SELECT g.species_id AS species, SUM(g.head_count) AS total, COUNT(g.head_count) AS n FROM sighting g GROUP BY g.species_id) q;
-- right
SELECT AVG(q.heads) AS by_day FROM (SELECT g.seen_on AS day, AVG(g.head_count) AS heads FROM sighting g GROUP BY g.seen_on) q;
-- right
SELECT s.name, q.mean FROM station s JOIN (SELECT d.station_id AS station, AVG(d.depth_cm) AS mean FROM reading d GROUP BY d.station_id) q ON q.station = s.id WHERE q.mean > (SELECT AVG(p.mean) FROM (SELECT x.station_id AS station, AVG(x.depth_cm) AS mean FROM reading x GROUP BY x.station_id) p);
-- right
SELECT AVG(q.least) AS usual_least FROM (SELECT d.station_id AS station, MIN(d.temperature) AS least FROM reading d GROUP BY d.station_id) q;
-- right
SELECT g.station_id, g.head_count - LAG(g.head_count) OVER (PARTITION BY g.station_id, g.species_id ORDER BY g.seen_on) AS more FROM sighting g;
-- right
SELECT g.seen_on, LAG(g.head_count) OVER (ORDER BY g.seen_on) AS heads FROM sighting g WHERE g.station_id = 1 AND g.species_id = 4;
-- right
SELECT d.station_id, d.depth_cm - LAG(d.depth_cm) OVER (PARTITION BY d.station_id ORDER BY d.taken_at) AS rise FROM reading d;

-- right
SELECT d.station_id, MIN(d.taken_at) AS first_at, MAX(d.taken_at) AS last_at, MIN(d.depth_cm) AS lowest, MAX(d.depth_cm) AS highest FROM reading d GROUP BY d.station_id;
-- right
SELECT w.id, MAX(w.family_name) AS last_name, MAX(s.capacity) AS last_capacity FROM warden w LEFT JOIN station s ON s.keeper_id = w.id GROUP BY w.id;
-- right
SELECT s.id, MAX(d.taken_at) AS max_at, MAX(d.depth_cm) AS max_depth FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id;
-- right
SELECT w.id FROM warden w EXCEPT SELECT s.keeper_id FROM station s;
-- right
SELECT s.river_id FROM station s INTERSECT SELECT r.flows_into FROM river r;
-- right
SELECT COUNT(*) * 1.0 / (SELECT COUNT(*) FROM station) AS readings_per_station FROM station s JOIN reading d ON d.station_id = s.id;
-- right
SELECT COUNT(*) * 100.0 / (SELECT COUNT(*) FROM station) AS percent FROM station s JOIN river r ON r.id = s.river_id WHERE r.length_km > 50;
-- right
SELECT d.id, d.station_id, LAG(d.station_id) OVER w AS station_before, d.depth_cm - LAG(d.depth_cm) OVER w AS more FROM reading d WINDOW w AS (ORDER BY d.taken_at, d.id);
-- right
SELECT d.station_id, d.depth_cm - LAG(d.depth_cm) OVER w AS more FROM reading d WINDOW w AS (PARTITION BY d.station_id ORDER BY d.taken_at, d.id);

-- right
SELECT d.id, LAST_VALUE(d.id) OVER (ORDER BY d.id ROWS BETWEEN UNBOUNDED PRECEDING AND UNBOUNDED FOLLOWING) AS last_id FROM reading d;
-- right
SELECT d.id, d.taken_at, n.taken_at AS next_at FROM reading d JOIN reading n ON n.station_id = d.station_id AND n.taken_at > d.taken_at WHERE NOT EXISTS (SELECT 1 FROM reading m WHERE m.station_id = d.station_id AND m.taken_at > d.taken_at AND m.taken_at < n.taken_at);
-- right
SELECT d.id, MIN(n.taken_at) AS next_at FROM reading d LEFT JOIN reading n ON n.station_id = d.station_id AND n.taken_at > d.taken_at GROUP BY d.id;
-- right
SELECT r.name FROM river r WHERE EXISTS (SELECT 1 FROM station s LEFT JOIN reading d ON d.station_id = s.id AND d.depth_cm > 300 WHERE s.river_id = r.id AND d.id IS NULL);
-- right
SELECT s.name, s.capacity, (SELECT t.capacity FROM station t ORDER BY t.capacity DESC, t.id FETCH FIRST 1 ROW ONLY) AS most FROM station s;
-- right
SELECT s.name FROM station s JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name HAVING COUNT(d.id) > 3;

-- right
SELECT r.name, COUNT(s.keeper_id) AS kept FROM river r JOIN station s ON s.river_id = r.id GROUP BY r.id, r.name;
-- right
SELECT COUNT(d.temperature) AS readings FROM reading d WHERE d.temperature IS NOT NULL;
-- right
SELECT r.name, COUNT(s.river_id) AS stations FROM river r LEFT JOIN station s ON s.river_id = r.id GROUP BY r.id, r.name;
-- right
SELECT s.name, AVG(CASE WHEN d.temperature > 10 THEN 1 ELSE 0 END) AS warm FROM station s JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name;
-- right
SELECT s.name, AVG(CASE WHEN d.temperature > 10 THEN d.depth_cm END) AS depth FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name;
-- right
SELECT s.name, p.name AS species, g.seen_on, g.head_count FROM station s CROSS JOIN species p LEFT JOIN sighting g ON g.station_id = s.id AND g.species_id = p.id;
-- right
SELECT s.name FROM station s WHERE CAST(s.river_id AS CHAR(10)) > '0';
-- right
SELECT d.station_id, d.depth_cm - LAG(d.depth_cm) OVER (PARTITION BY d.station_id ORDER BY d.taken_at) AS rise FROM reading d;
-- right
SELECT s.keeper_id FROM station s UNION SELECT w.mentor_id FROM warden w;
-- right
SELECT s.river_id, MAX(s.capacity) AS most, MIN(s.keeper_id) AS first_keeper FROM station s GROUP BY s.river_id;
-- right
SELECT x.station_id, MIN(x.species_id) AS least_species, MIN(x.seen_on) AS first_on FROM sighting x GROUP BY x.station_id;
-- right
WITH RECURSIVE groups_below (id, up) AS (SELECT g.id, g.within_id FROM species_group g WHERE g.name = 'fish' UNION ALL SELECT g.id, g.within_id FROM species_group g JOIN groups_below b ON g.within_id = b.id) SELECT b.id FROM groups_below b;
-- right
SELECT s.name, ROW_NUMBER() OVER (PARTITION BY s.river_id ORDER BY s.capacity, s.id) AS place FROM station s;
-- right
SELECT s.name, CASE WHEN d.id IS NULL THEN 'nothing' WHEN d.temperature IS NULL THEN 'depth alone' ELSE 'warmth too' END AS measured FROM station s LEFT JOIN reading d ON d.station_id = s.id;
-- right
SELECT COUNT(DISTINCT d.station_id) * 100.0 / COUNT(DISTINCT s.id) AS share FROM station s LEFT JOIN reading d ON d.station_id = s.id;
-- right
SELECT r.name FROM river r WHERE EXISTS (SELECT 1 FROM station s WHERE s.river_id = r.id OR s.river_id = r.flows_into);
-- right
SELECT MAX(r.length_km) AS longest, MAX(CAST(r.name AS CHAR(40))) AS last_name FROM river r;
-- right
SELECT w.given_name, (SELECT COUNT(*) FROM station s WHERE s.keeper_id = w.id AND s.id <> s.keeper_id) AS kept FROM warden w;
-- right
WITH RECURSIVE t (id, level_no) AS (SELECT g.id, 1 FROM species_group g UNION ALL SELECT g.id, t.level_no + 1 FROM t JOIN species_group g ON g.within_id = t.id) SELECT id, MAX(level_no) AS depth FROM t GROUP BY id;
-- right
WITH RECURSIVE t (top_id, id) AS (SELECT g.id, g.id FROM species_group g UNION ALL SELECT t.top_id, g.id FROM t JOIN species_group g ON g.within_id = t.id) SELECT top_id, COUNT(*) - 1 AS below FROM t GROUP BY top_id;
-- right
SELECT s.name, CASE WHEN s.capacity > 8 THEN 'many' WHEN s.capacity > 2 THEN 'some' ELSE 'few' END AS size_word FROM station s;
-- right
SELECT s.name, (SELECT MAX(d.taken_at) FROM reading d WHERE d.station_id = s.id AND d.depth_cm > 0) AS last_at FROM station s;
-- right
SELECT s.name, s.capacity - (SELECT MIN(s.capacity) FROM station s) AS above_least FROM station s;
-- right
SELECT a.station_id, a.seen_on FROM sighting a JOIN sighting b ON b.station_id = a.station_id AND b.seen_on = a.seen_on AND b.species_id > a.species_id;
-- right
SELECT s.name, s.capacity - COALESCE(t.heads, 0) AS room FROM station s LEFT JOIN (SELECT g.station_id, SUM(g.head_count) AS heads FROM sighting g GROUP BY g.station_id) t ON t.station_id = s.id;
-- right
SELECT s.id FROM station s LEFT JOIN sighting g ON g.station_id = s.id GROUP BY s.id, s.capacity HAVING COALESCE(SUM(g.head_count), 0) < s.capacity;
-- right
SELECT d.depth_cm, COUNT(DISTINCT d.station_id) AS stations, COUNT(*) AS readings FROM reading d GROUP BY d.depth_cm;
-- right
SELECT s.river_id, MAX(s.capacity) AS most, MIN(s.id) AS least_number FROM station s GROUP BY s.river_id;
-- right
SELECT d.station_id, MIN(d.taken_at) AS first_reading, MAX(d.taken_at) AS last_reading FROM reading d GROUP BY d.station_id;
-- right
SELECT g.species_id, MAX(g.seen_on) AS first_free FROM sighting g GROUP BY g.species_id;
-- right
SELECT q.station_id, q.depth_cm AS last_depth FROM (SELECT d.station_id, d.depth_cm, ROW_NUMBER() OVER (PARTITION BY d.station_id ORDER BY d.taken_at DESC, d.id) AS n FROM reading d) q WHERE q.n = 1;
-- right
SELECT s.name, CASE WHEN s.capacity < 6 THEN 'small' WHEN s.capacity > 6 THEN 'large' ELSE 'six' END AS size FROM station s;
-- right
SELECT s.name, CASE WHEN s.capacity < 6 THEN 'small' WHEN s.capacity >= 6 THEN 'large' END AS size FROM station s;
-- right
SELECT SUM(CASE WHEN s.capacity < 6 THEN 1 WHEN s.capacity > 6 THEN 2 END) AS points FROM station s;
-- right
SELECT d.id, COUNT(DISTINCT g.seen_on) AS days FROM reading d JOIN sighting g ON g.station_id = d.station_id GROUP BY d.id;
-- right
SELECT d.station_id, SUM(d.temperature) / COUNT(d.temperature) AS usual FROM reading d GROUP BY d.station_id;
-- right
SELECT s.name, CASE WHEN s.capacity < 5 THEN 'small' WHEN s.capacity > 10 THEN 'large' END AS size FROM station s;
-- right
SELECT s.id, s.name FROM station s ORDER BY CASE WHEN s.capacity < 6 THEN 1 WHEN s.capacity > 6 THEN 2 END, s.id;
-- right
SELECT AVG(q.n) AS average_station FROM (SELECT d.station_id, COUNT(*) * 1.0 AS n FROM reading d GROUP BY d.station_id) q;
-- right
SELECT d.station_id, MAX(d.temperature) AS highest, MIN(d.temperature) AS lowest FROM reading d GROUP BY d.station_id;
-- right
SELECT s.id, COUNT(g.seen_on) - COALESCE(q.n, 0) AS more FROM station s LEFT JOIN sighting g ON g.station_id = s.id LEFT JOIN (SELECT d.station_id, COUNT(*) AS n FROM reading d GROUP BY d.station_id) q ON q.station_id = s.id GROUP BY s.id, COALESCE(q.n, 0);
-- right
SELECT AVG(d.depth_cm) AS average_depth FROM reading d;
-- right
SELECT s.name, AVG(d.depth_cm) AS average_station FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.name;
-- right
SELECT q.unit, SUM(q.amount) AS total FROM (SELECT s.capacity AS amount, s.bank AS unit FROM station s WHERE s.bank IS NOT NULL) q GROUP BY q.unit;
-- right
SELECT SUM(q.amount) AS total FROM (SELECT s.capacity AS amount, s.bank AS unit FROM station s) q WHERE q.unit = 'R';
-- right
SELECT SUM(CASE WHEN q.unit = 'R' THEN q.amount ELSE 2 * q.amount END) AS total FROM (SELECT s.capacity AS amount, s.bank AS unit FROM station s WHERE s.bank IS NOT NULL) q;
-- right
SELECT SUM(q.pieces) AS pieces, MAX(q.price) AS dearest FROM (SELECT s.capacity AS price, s.id AS pieces, s.bank AS currency FROM station s) q;
-- right
SELECT q.id, SUM(q.price) AS total FROM (SELECT s.id, d.depth_cm AS price, s.bank AS unit FROM station s JOIN reading d ON d.station_id = s.id) q GROUP BY q.id;
-- right
SELECT s.name, s.capacity - COALESCE((SELECT SUM(g.head_count) FROM sighting g WHERE g.station_id = s.id), 0) AS room FROM station s;
-- right
SELECT s.name, s.capacity - (SELECT SUM(g.head_count) FROM sighting g WHERE g.station_id = s.id) AS room FROM station s WHERE EXISTS (SELECT 1 FROM sighting h WHERE h.station_id = s.id);
-- right
SELECT s.name FROM station s WHERE s.capacity < (SELECT SUM(g.head_count) FROM sighting g WHERE g.station_id = s.id);
-- right
SELECT s.name FROM station s WHERE (SELECT SUM(g.head_count) FROM sighting g WHERE g.station_id = s.id) BETWEEN 1 AND 1000 AND s.capacity > 1;
-- right
WITH RECURSIVE t (id, within_id) AS (SELECT g.id, g.within_id FROM species_group g WHERE g.name = 'fish' UNION ALL SELECT g.id, g.within_id FROM species_group g JOIN t ON g.within_id = t.id) SELECT COUNT(*) AS groups_below FROM t;
-- right
SELECT SUM(q.amount * q.exchange_rate) AS total FROM (SELECT s.capacity AS amount, 2 AS exchange_rate, s.bank AS currency FROM station s) q;
-- right
SELECT q.river_id, SUM(q.amount) AS total FROM (SELECT s.river_id, s.capacity AS amount, s.bank AS unit FROM station s) q GROUP BY q.river_id HAVING COUNT(DISTINCT q.unit) = 1;
-- right
SELECT CASE WHEN MIN(q.unit) = MAX(q.unit) THEN SUM(q.amount) END AS total FROM (SELECT s.river_id, s.capacity AS amount, s.bank AS unit FROM station s) q;
-- right
SELECT MIN(q.unit) AS one_unit, MAX(q.unit) AS other_unit, SUM(q.amount) AS total FROM (SELECT s.river_id, s.capacity AS amount, s.bank AS unit FROM station s) q;
-- right
SELECT s.name FROM station s WHERE (SELECT SUM(g.head_count) FROM sighting g WHERE g.station_id = s.id) < 0 OR s.capacity > 1;
-- right
SELECT s.name FROM station s WHERE 3 < (SELECT SUM(g.head_count) FROM sighting g WHERE g.station_id = s.id);
-- right
SELECT a.family_name, b.family_name AS other FROM warden a JOIN warden b ON a.mentor_id = b.mentor_id AND a.family_name < b.family_name;
-- right
SELECT a.name, b.name AS other FROM species a JOIN species b ON b.group_id = a.group_id AND b.name < a.name;
-- right
SELECT a.name, b.name AS across FROM station a JOIN station b ON b.river_id = a.river_id AND a.bank < b.bank;
-- right
SELECT d.id FROM reading d WHERE NOT (d.depth_cm > 60) OR d.depth_cm IS NULL;
-- right
SELECT d.id FROM reading d WHERE d.temperature <> 2 * 4 AND d.temperature IS NOT NULL;
-- right
SELECT d.id FROM reading d WHERE d.temperature < 2 * 4 OR d.temperature IS NULL;
-- right
SELECT s.name FROM station s LEFT JOIN river r ON r.id = s.river_id WHERE NOT (s.keeper_id = r.flows_into) OR s.keeper_id IS NULL OR r.flows_into IS NULL;
-- right
SELECT a.family_name, b.family_name AS other FROM warden a JOIN warden b ON a.id < b.id;
-- right
SELECT s.name, COUNT(d.station_id) AS readings FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name HAVING COUNT(d.station_id) < 3;
-- right
SELECT a.bank, b.bank AS other FROM station a JOIN station b ON b.river_id = a.river_id AND a.bank < b.bank WHERE b.river_id = 2;
-- right
SELECT s.name FROM station s JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name HAVING COUNT(DISTINCT d.depth_cm) > 1;
-- right
SELECT s.name, x.depth_cm FROM (SELECT d.station_id, d.depth_cm FROM reading d ORDER BY d.taken_at DESC, d.id LIMIT 1) x JOIN station s ON s.id = x.station_id;
-- right
SELECT s.name FROM station s LEFT JOIN sighting g ON g.station_id = s.id AND g.species_id = 4 WHERE g.station_id IS NULL;
-- right
SELECT COUNT(DISTINCT d.depth_cm) AS depths FROM reading d;
-- right
SELECT SUM(q.n) AS kinds_and_stations FROM (SELECT g.station_id, COUNT(DISTINCT g.species_id) AS n FROM sighting g GROUP BY g.station_id) q;
-- right
SELECT d.station_id, AVG(d.depth_cm) AS depth_per_station FROM reading d GROUP BY d.station_id;
