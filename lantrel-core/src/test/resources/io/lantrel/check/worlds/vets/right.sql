-- Correct queries that look suspicious: none has a warning.
-- right
SELECT i.id, b.billed - COALESCE(p.paid, 0) AS due FROM invoice i JOIN (SELECT invoice_id, SUM(quantity * price) AS billed FROM invoice_item GROUP BY invoice_id) b ON b.invoice_id = i.id LEFT JOIN (SELECT invoice_id, SUM(amount) AS paid FROM payment GROUP BY invoice_id) p ON p.invoice_id = i.id;
-- right
SELECT o.last_name, o.id, i.currency, SUM(t.quantity * t.price) AS spent FROM owner o JOIN pet p ON p.owner_id = o.id JOIN visit v ON v.pet_id = p.id JOIN invoice i ON i.visit_id = v.id JOIN invoice_item t ON t.invoice_id = i.id GROUP BY o.id, o.last_name, i.currency;
-- right
SELECT d.visit_id, SUM(CASE WHEN d.unit = 'mg' THEN d.amount END) AS mg, SUM(CASE WHEN d.unit = 'ml' THEN d.amount END) AS ml FROM dose d GROUP BY d.visit_id;
-- right
SELECT d.visit_id, SUM(d.amount) FILTER (WHERE d.unit = 'mg') AS mg FROM dose d GROUP BY d.visit_id;
-- right
SELECT d.drug_id, MAX(d.amount) AS most FROM dose d GROUP BY d.drug_id;
-- right
SELECT q.pet_id, q.came_at, q.reason FROM (SELECT v.*, ROW_NUMBER() OVER (PARTITION BY v.pet_id ORDER BY v.came_at DESC, v.id DESC) AS n FROM visit v) q WHERE q.n = 1;
-- right
SELECT i.id FROM invoice i WHERE NOT EXISTS (SELECT 1 FROM payment p WHERE p.invoice_id = i.id);
-- right
SELECT i.id FROM invoice i WHERE COALESCE((SELECT SUM(p.amount) FROM payment p WHERE p.invoice_id = i.id), 0) < (SELECT SUM(t.quantity * t.price) FROM invoice_item t WHERE t.invoice_id = i.id);
-- right
WITH RECURSIVE above AS (SELECT b.id, b.name, b.within_id FROM breed b WHERE b.name = 'fox terrier' UNION ALL SELECT b.id, b.name, b.within_id FROM breed b JOIN above a ON b.id = a.within_id) SELECT name FROM above;
-- right
WITH RECURSIVE t AS (SELECT b.id AS top_id, b.id FROM breed b UNION ALL SELECT t.top_id, b.id FROM breed b JOIN t ON b.within_id = t.id) SELECT t.top_id, COUNT(*) - 1 AS below FROM t GROUP BY t.top_id;
-- right
SELECT p.id, p.name FROM pet p WHERE p.died IS NULL AND NOT EXISTS (SELECT 1 FROM vaccination x WHERE x.pet_id = p.id AND x.disease = 'rabies' AND (x.valid_until IS NULL OR x.valid_until >= DATE '2026-06-01'));
-- right
SELECT p.id, p.name, (SELECT COUNT(*) FROM visit v WHERE v.pet_id = p.id) AS visits, (SELECT COUNT(*) FROM stay s WHERE s.pet_id = p.id) AS stays FROM pet p;
-- right
SELECT a.name AS one, b.name AS other FROM pet a JOIN pet b ON b.mother_id = a.mother_id AND b.id > a.id;
-- right
SELECT v.id, v.vet_id AS who FROM visit v WHERE v.vet_id IS NOT NULL UNION ALL SELECT v.id, v.assistant_id FROM visit v WHERE v.assistant_id IS NOT NULL;
-- right
SELECT v.id, t.name AS vet, a.name AS assistant FROM visit v LEFT JOIN vet t ON t.id = v.vet_id LEFT JOIN vet a ON a.id = v.assistant_id;
-- right
SELECT v.pet_id, v.came_at, v.weight_kg - LAG(v.weight_kg) OVER (PARTITION BY v.pet_id ORDER BY v.came_at, v.id) AS gained FROM visit v WHERE v.weight_kg IS NOT NULL;
-- right
SELECT a.id, b.id AS other FROM stay a JOIN stay b ON b.clinic_id = a.clinic_id AND b.id > a.id AND a.from_day <= COALESCE(b.to_day, DATE '9999-12-31') AND b.from_day <= COALESCE(a.to_day, DATE '9999-12-31');
-- right
SELECT AVG(q.total) AS average_invoice FROM (SELECT t.invoice_id, SUM(t.quantity * t.price) AS total FROM invoice_item t JOIN invoice i ON i.id = t.invoice_id WHERE i.currency = 'CRN' GROUP BY t.invoice_id) q;
-- right
SELECT i.currency, SUM(p.amount) AS paid FROM payment p JOIN invoice i ON i.id = p.invoice_id GROUP BY i.currency;
-- right
WITH RECURSIVE r AS (SELECT o.id, o.referred_by, 0 AS steps FROM owner o WHERE o.referred_by IS NULL UNION ALL SELECT o.id, o.referred_by, r.steps + 1 FROM owner o JOIN r ON o.referred_by = r.id WHERE r.steps < 20) SELECT steps, COUNT(*) AS owners FROM r GROUP BY steps;
-- right
SELECT c.name, COUNT(v.id) AS visits FROM clinic c LEFT JOIN visit v ON v.clinic_id = c.id AND v.came_at >= DATE '2026-01-01' GROUP BY c.id, c.name;
-- right
SELECT b.id, b.name, COUNT(p.id) AS pets FROM breed b LEFT JOIN pet p ON p.breed_id = b.id GROUP BY b.id, b.name;
-- right
SELECT d.name, r.name AS replaces FROM drug d LEFT JOIN drug r ON r.id = d.replaces_id;
-- right
SELECT i.id, SUM(t.quantity * t.price) - COALESCE(i.rebate, 0) AS due FROM invoice i JOIN invoice_item t ON t.invoice_id = i.id GROUP BY i.id, i.rebate;
-- right
SELECT x.pet_id, x.disease, MIN(x.given_on) AS first_given, COUNT(*) AS times FROM vaccination x GROUP BY x.pet_id, x.disease;
-- right
SELECT v.pet_id, MAX(v.weight_kg) AS heaviest FROM visit v GROUP BY v.pet_id;
-- right
SELECT p.name, AVG(v.weight_kg) AS mean_weight FROM pet p JOIN visit v ON v.pet_id = p.id GROUP BY p.id, p.name;
-- right
SELECT p.name, b.name AS breed, w.name AS wider FROM pet p LEFT JOIN breed b ON b.id = p.breed_id LEFT JOIN breed w ON w.id = b.within_id;
-- right
SELECT x.pet_id, x.disease, CASE WHEN COUNT(*) > COUNT(x.valid_until) THEN NULL ELSE MAX(x.valid_until) END AS protected_until FROM vaccination x GROUP BY x.pet_id, x.disease;
-- right
SELECT v.id, COUNT(d.drug_id) AS drugs FROM visit v LEFT JOIN dose d ON d.visit_id = v.id GROUP BY v.id;
-- right
SELECT o.id, o.last_name, COUNT(DISTINCT p.id) AS pets, COUNT(v.id) AS visits FROM owner o LEFT JOIN pet p ON p.owner_id = o.id LEFT JOIN visit v ON v.pet_id = p.id GROUP BY o.id, o.last_name;
-- right
SELECT v.id, i.id AS invoice_id, i.sent_on FROM visit v LEFT JOIN invoice i ON i.visit_id = v.id ORDER BY v.id, i.id;
-- right
SELECT p.name FROM pet p WHERE EXISTS (SELECT 1 FROM visit v JOIN dose d ON d.visit_id = v.id WHERE v.pet_id = p.id AND d.drug_id = 1);
-- right
SELECT p.name FROM pet p WHERE p.id IN (SELECT m.mother_id FROM pet m WHERE m.mother_id IS NOT NULL);
-- right
SELECT t.name, s.name AS senior, h.name AS head FROM vet t LEFT JOIN vet s ON s.id = t.senior_id LEFT JOIN vet h ON h.id = s.senior_id;
-- right
SELECT s.id, s.name, COUNT(t.id) AS juniors FROM vet s LEFT JOIN vet t ON t.senior_id = s.id GROUP BY s.id, s.name;
-- right
SELECT i.id, i.sent_on, MAX(p.paid_on) AS last_paid FROM invoice i LEFT JOIN payment p ON p.invoice_id = i.id GROUP BY i.id, i.sent_on;
-- right
SELECT i.id FROM invoice i LEFT JOIN payment p ON p.invoice_id = i.id WHERE p.id IS NULL;
-- right
SELECT v.clinic_id, CAST(v.came_at AS DATE) AS day, COUNT(*) AS visits FROM visit v GROUP BY v.clinic_id, CAST(v.came_at AS DATE);
-- right
SELECT EXTRACT(YEAR FROM v.came_at) AS year, EXTRACT(MONTH FROM v.came_at) AS month, COUNT(*) AS visits FROM visit v GROUP BY EXTRACT(YEAR FROM v.came_at), EXTRACT(MONTH FROM v.came_at);
-- right
SELECT COUNT(*) AS visits FROM visit v WHERE v.came_at >= DATE '2026-01-01' AND v.came_at < DATE '2026-02-01';
-- right
SELECT c.name, COUNT(CASE WHEN v.reason = 'wound' THEN 1 END) AS wounds, COUNT(v.id) AS visits FROM clinic c LEFT JOIN visit v ON v.clinic_id = c.id GROUP BY c.id, c.name;
-- right
SELECT d.visit_id, g.name, d.amount, d.unit FROM dose d JOIN drug g ON g.id = d.drug_id;
-- right
SELECT g.name, d.unit, SUM(d.amount) AS given FROM drug g JOIN dose d ON d.drug_id = g.id WHERE g.name <> 'Exal' GROUP BY g.id, g.name, d.unit;
-- right
SELECT a.id, b.id AS later_stay FROM stay a JOIN stay b ON b.pet_id = a.pet_id AND b.from_day > a.from_day;
-- right
SELECT s.pet_id, s.from_day, s.to_day FROM stay s WHERE s.from_day <= DATE '2026-03-01' AND (s.to_day IS NULL OR s.to_day >= DATE '2026-03-01');
-- right
SELECT p.invoice_id, p.paid_on, SUM(p.amount) OVER (PARTITION BY p.invoice_id ORDER BY p.paid_on, p.id) AS paid_so_far FROM payment p;
-- right
SELECT p.id, p.name, p.born, RANK() OVER (PARTITION BY p.owner_id ORDER BY p.born) AS place FROM pet p WHERE p.born IS NOT NULL;
-- right
SELECT m.name AS mother, COUNT(p.id) AS young FROM pet m JOIN pet p ON p.mother_id = m.id GROUP BY m.id, m.name;
-- right
WITH RECURSIVE line AS (SELECT p.id, p.name, p.mother_id, 0 AS steps FROM pet p WHERE p.id = 10 UNION ALL SELECT p.id, p.name, p.mother_id, l.steps + 1 FROM pet p JOIN line l ON p.id = l.mother_id WHERE l.steps < 30) SELECT name, steps FROM line;
-- right
SELECT o.village, COUNT(*) AS owners FROM (SELECT id, LOWER(TRIM(village)) AS village FROM owner) o WHERE o.village IS NOT NULL GROUP BY o.village;
-- right
SELECT o.id, o.last_name FROM owner o WHERE NOT EXISTS (SELECT 1 FROM pet p WHERE p.owner_id = o.id);
-- right
SELECT v.id, v.reason FROM visit v WHERE v.reason IS NULL OR v.reason <> 'check';
-- right
SELECT t.id, t.name FROM vet t WHERE t.left_on IS NULL OR t.left_on > DATE '2026-06-01';
-- right
SELECT i.id, (SELECT COUNT(*) FROM invoice_item t WHERE t.invoice_id = i.id) AS items, (SELECT COUNT(*) FROM payment p WHERE p.invoice_id = i.id) AS payments FROM invoice i;
-- right
SELECT q.invoice_id, q.total, RANK() OVER (ORDER BY q.total DESC) AS place FROM (SELECT t.invoice_id, SUM(t.quantity * t.price) AS total FROM invoice_item t JOIN invoice i ON i.id = t.invoice_id AND i.currency = 'CRN' GROUP BY t.invoice_id) q;
-- right
SELECT x.pet_id, x.disease, x.given_on FROM vaccination x WHERE NOT EXISTS (SELECT 1 FROM vaccination y WHERE y.pet_id = x.pet_id AND y.disease = x.disease AND y.given_on > x.given_on);
-- right
SELECT v.pet_id, v.came_at, v.reason FROM visit v WHERE v.came_at = (SELECT MAX(y.came_at) FROM visit y WHERE y.pet_id = v.pet_id);
-- right
SELECT p.name, o.last_name FROM pet p, owner o WHERE o.id = p.owner_id AND o.village = 'Ridge';
-- right
SELECT d.name FROM drug d WHERE d.id NOT IN (SELECT r.replaces_id FROM drug r WHERE r.replaces_id IS NOT NULL);
-- right
SELECT 'visit' AS kind, v.pet_id, CAST(v.came_at AS DATE) AS day FROM visit v UNION ALL SELECT 'stay', s.pet_id, s.from_day FROM stay s;
-- right
SELECT i.currency, COUNT(*) AS invoices, SUM(COALESCE(i.rebate, 0)) AS rebates FROM invoice i GROUP BY i.currency;
-- right
SELECT v.vet_id, COUNT(*) AS visits FROM visit v WHERE v.vet_id IS NOT NULL GROUP BY v.vet_id HAVING COUNT(*) >= 3;
-- right
SELECT c.name, ROUND(100.0 * COUNT(v.vet_id) / COUNT(v.id), 1) AS percent_with_vet FROM clinic c JOIN visit v ON v.clinic_id = c.id WHERE c.id < 4 GROUP BY c.id, c.name;
-- right
SELECT p.pet_id, p.weight_kg AS last_weight FROM (SELECT v.pet_id, v.weight_kg, ROW_NUMBER() OVER (PARTITION BY v.pet_id ORDER BY v.came_at DESC, v.id) AS n FROM visit v WHERE v.weight_kg IS NOT NULL) p WHERE p.n = 1;
-- right
SELECT DISTINCT v.pet_id FROM visit v JOIN dose d ON d.visit_id = v.id WHERE d.unit = 'ml';
-- right
SELECT o.last_name, r.last_name AS referrer FROM owner o LEFT JOIN owner r ON r.id = o.referred_by;
-- right
SELECT v.id, t.name AS vet FROM visit v JOIN vet t ON t.id = v.vet_id WHERE v.clinic_id = t.clinic_id;
