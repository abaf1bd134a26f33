-- Each query has the finding that stands before it, at the place between « and ».
-- repeated-in-total
SELECT i.id, «SUM(t.quantity * t.price)» AS billed, SUM(p.amount) AS paid FROM invoice i JOIN invoice_item t ON t.invoice_id = i.id LEFT JOIN payment p ON p.invoice_id = i.id GROUP BY i.id;
-- mixed-units
SELECT v.pet_id, «SUM(t.quantity * t.price)» AS spent FROM visit v JOIN invoice i ON i.visit_id = v.id JOIN invoice_item t ON t.invoice_id = i.id GROUP BY v.pet_id;
-- mixed-units
SELECT d.visit_id, «SUM(d.amount)» AS total FROM dose d GROUP BY d.visit_id;
-- not-in-null
SELECT p.name FROM pet p WHERE «p.id NOT IN (SELECT m.mother_id FROM pet m)»;
-- outer-join-cancelled
SELECT p.name, v.came_at FROM pet p LEFT JOIN visit v ON v.pet_id = p.id WHERE «v.reason = 'wound'»;
-- reversed-self-join
SELECT p.name AS pet, m.name AS mother FROM pet p JOIN pet m ON «m.mother_id = p.id»;
-- repeated-in-total
SELECT p.name, «COUNT(v.id)» AS visits, COUNT(s.id) AS stays FROM pet p LEFT JOIN visit v ON v.pet_id = p.id LEFT JOIN stay s ON s.pet_id = p.id GROUP BY p.id, p.name;
-- values-of-several-rows
SELECT v.pet_id, MAX(v.came_at) AS last_visit, «MAX(v.reason)» AS last_reason FROM visit v GROUP BY v.pet_id;
-- nearly-equal
SELECT o.last_name, c.name FROM owner o JOIN clinic c ON «c.village = o.village»;
-- grouped-by-name
SELECT t.name, COUNT(*) AS visits FROM visit v JOIN vet t ON t.id = v.vet_id GROUP BY «t.name»;
-- type-mismatch
SELECT COUNT(*) AS n FROM visit v WHERE «v.came_at BETWEEN DATE '2026-01-01' AND DATE '2026-01-31'»;
-- uncorrelated-exists
SELECT o.last_name FROM owner o WHERE «EXISTS (SELECT 1 FROM pet p WHERE p.died IS NULL)»;
-- not-a-reference
SELECT v.id, g.name FROM visit v JOIN dose d ON d.visit_id = v.id JOIN drug g ON «g.id = d.visit_id»;
-- repeated-in-total
SELECT «AVG(t.quantity * t.price)» AS average_invoice FROM invoice i JOIN invoice_item t ON t.invoice_id = i.id;
-- mixed-units
SELECT «AVG(t.quantity * t.price)» AS average_invoice FROM invoice i JOIN invoice_item t ON t.invoice_id = i.id;
-- null-swallows
SELECT i.id, «SUM(t.quantity * t.price) - i.rebate» AS due FROM invoice i JOIN invoice_item t ON t.invoice_id = i.id GROUP BY i.id, i.rebate;
-- null-swallows
SELECT i.id, SUM(«t.quantity * t.price - i.rebate») AS due FROM invoice i JOIN invoice_item t ON t.invoice_id = i.id GROUP BY i.id;
-- rows-without-partner
SELECT v.id, c.name AS visited_clinic FROM visit v «JOIN» vet t ON t.id = v.vet_id JOIN clinic c ON c.id = t.clinic_id;
-- null-comparison
SELECT p.name, x.disease FROM pet p JOIN vaccination x ON x.pet_id = p.id WHERE x.given_on <= DATE '2024-06-01' AND «x.valid_until > DATE '2024-06-01'»;
-- reversed-recursion
WITH RECURSIVE t AS (SELECT b.id, b.name, b.within_id FROM breed b WHERE b.name = 'dog' UNION ALL SELECT b.id, b.name, b.within_id FROM breed b JOIN t ON «b.id = t.within_id») SELECT COUNT(*) AS breeds_below FROM t;
-- repeated-in-total
SELECT i.id FROM invoice i JOIN invoice_item t ON t.invoice_id = i.id JOIN payment p ON p.invoice_id = i.id GROUP BY i.id HAVING «SUM(p.amount)» >= SUM(t.quantity * t.price);
-- repeated-in-total
SELECT o.village, «AVG(v.weight_kg)» AS mean_weight FROM owner o JOIN pet p ON p.owner_id = o.id JOIN visit v ON v.pet_id = p.id JOIN dose d ON d.visit_id = v.id GROUP BY o.village;
-- nearly-equal
SELECT o.village, AVG(v.weight_kg) AS mean_weight FROM owner o JOIN pet p ON p.owner_id = o.id JOIN visit v ON v.pet_id = p.id JOIN dose d ON d.visit_id = v.id GROUP BY «o.village»;
-- outer-chain-broken
SELECT p.name, b.name, w.name FROM pet p LEFT JOIN breed b ON b.id = p.breed_id «JOIN» breed w ON w.id = b.within_id;
-- uncorrelated-exists
SELECT p.name FROM pet p WHERE NOT «EXISTS (SELECT 1 FROM vaccination x WHERE x.pet_id = x.pet_id)»;
-- always-true
SELECT p.name FROM pet p WHERE NOT EXISTS (SELECT 1 FROM vaccination x WHERE «x.pet_id = x.pet_id»);
-- null-swallows
SELECT i.id, SUM(t.quantity * t.price) - «(SELECT SUM(p.amount) FROM payment p WHERE p.invoice_id = i.id)» AS open_amount FROM invoice i JOIN invoice_item t ON t.invoice_id = i.id GROUP BY i.id;
-- self-match
SELECT a.name, b.name FROM pet a JOIN pet b ON «b.mother_id = a.mother_id»;
-- grouped-by-name
SELECT o.first_name, o.last_name, COUNT(*) AS visits FROM owner o JOIN pet p ON p.owner_id = o.id JOIN visit v ON v.pet_id = p.id GROUP BY «o.first_name, o.last_name»;
-- subquery-many-rows
SELECT i.id, «(SELECT p.paid_on FROM payment p WHERE p.invoice_id = i.id)» AS paid_on FROM invoice i;
-- repeated-in-total
SELECT c.name, «SUM(q.total)» AS total FROM clinic c JOIN visit v ON v.clinic_id = c.id JOIN (SELECT i.currency, SUM(t.price) AS total FROM invoice i JOIN invoice_item t ON t.invoice_id = i.id GROUP BY i.currency) q ON q.currency = c.currency GROUP BY c.name;
-- count-of-missing
SELECT i.id, «COUNT(*)» AS payments FROM invoice i LEFT JOIN payment p ON p.invoice_id = i.id GROUP BY i.id HAVING COUNT(*) = 0;
-- never-true
SELECT i.id, COUNT(*) AS payments FROM invoice i LEFT JOIN payment p ON p.invoice_id = i.id GROUP BY i.id HAVING «COUNT(*) = 0»;
-- order-against-name
SELECT p.owner_id, «MIN(p.born)» AS youngest FROM pet p GROUP BY p.owner_id;
-- order-against-name
SELECT o.last_name, (SELECT p.name FROM pet p WHERE p.owner_id = o.id ORDER BY «p.born DESC» LIMIT 1) AS oldest_pet FROM owner o;
-- nearly-equal
SELECT o.last_name FROM owner o WHERE «o.village = 'hollow'»;
-- repeated-in-total
SELECT r.last_name, «COUNT(p.id)» AS pets_of_referred FROM owner r JOIN owner o ON o.referred_by = r.id LEFT JOIN pet p ON p.owner_id = r.id GROUP BY r.id, r.last_name;
-- partial-key
SELECT v.id, x.disease FROM visit v JOIN vaccination x ON «x.pet_id = v.pet_id»;
-- outer-join-cancelled
SELECT p.name FROM pet p LEFT JOIN vaccination x ON x.pet_id = p.id WHERE «x.given_on >= DATE '2024-01-01'» AND x.pet_id IS NULL;
-- never-true
SELECT p.name FROM pet p LEFT JOIN vaccination x ON x.pet_id = p.id WHERE x.given_on >= DATE '2024-01-01' AND «x.pet_id IS NULL»;
-- count-ignores-condition
SELECT c.name, «AVG(CASE WHEN v.reason = 'wound' THEN 1 END)» AS share_of_wounds FROM clinic c JOIN visit v ON v.clinic_id = c.id GROUP BY c.id, c.name;
-- unstable-order
SELECT p.id, p.paid_on, «SUM(p.amount) OVER (PARTITION BY p.invoice_id)» AS paid_so_far FROM payment p;
-- rows-without-partner
SELECT v.id, t.name AS vet, a.name AS assistant FROM visit v «JOIN» vet t ON t.id = v.vet_id JOIN vet a ON a.id = v.vet_id;
-- alias-of-other-table
SELECT v.id, t.name AS vet, a.name AS assistant FROM visit v JOIN vet t ON t.id = v.vet_id JOIN vet a ON «a.id = v.vet_id»;
-- mixed-units
SELECT o.last_name, «SUM(t.price * t.quantity)» AS spent FROM owner o JOIN pet p ON p.owner_id = o.id JOIN visit v ON v.pet_id = p.id JOIN invoice i ON i.visit_id = v.id JOIN invoice_item t ON t.invoice_id = i.id GROUP BY o.id, o.last_name ORDER BY spent LIMIT 5;
-- repeated-in-total
SELECT o.id, «SUM(p.amount)» AS paid, COUNT(DISTINCT s.id) AS stays FROM owner o JOIN pet t ON t.owner_id = o.id JOIN visit v ON v.pet_id = t.id JOIN invoice i ON i.visit_id = v.id JOIN payment p ON p.invoice_id = i.id LEFT JOIN stay s ON s.pet_id = t.id GROUP BY o.id;
-- mixed-units
SELECT o.id, «SUM(p.amount)» AS paid, COUNT(DISTINCT s.id) AS stays FROM owner o JOIN pet t ON t.owner_id = o.id JOIN visit v ON v.pet_id = t.id JOIN invoice i ON i.visit_id = v.id JOIN payment p ON p.invoice_id = i.id LEFT JOIN stay s ON s.pet_id = t.id GROUP BY o.id;
-- repeated-in-total
SELECT x.disease, «COUNT(*)» AS pets FROM vaccination x GROUP BY x.disease;
-- null-comparison
SELECT x.pet_id, «MAX(x.valid_until)» AS protected_until FROM vaccination x WHERE x.disease = 'leptosp' GROUP BY x.pet_id;
-- outer-chain-broken
SELECT c.name, COUNT(v.id) AS visits FROM clinic c LEFT JOIN visit v ON v.clinic_id = c.id «JOIN» vet t ON t.id = v.vet_id GROUP BY c.id, c.name;
-- partner-test-on-nullable
SELECT t.name, s.name AS senior FROM vet t LEFT JOIN vet s ON s.id = t.senior_id WHERE «s.left_on IS NULL» AND s.clinic_id = 1;
-- outer-join-cancelled
SELECT t.name, s.name AS senior FROM vet t LEFT JOIN vet s ON s.id = t.senior_id WHERE s.left_on IS NULL AND «s.clinic_id = 1»;
-- repeated-in-total
SELECT c.name, COUNT(d.drug_id) * 100.0 / «COUNT(v.id)» AS percent_with_dose FROM clinic c JOIN visit v ON v.clinic_id = c.id LEFT JOIN dose d ON d.visit_id = v.id GROUP BY c.id, c.name;
-- uncounted-rows
SELECT o.village, «COUNT(o.village)» AS owners FROM owner o GROUP BY o.village;
-- nearly-equal
SELECT o.village, COUNT(o.village) AS owners FROM owner o GROUP BY «o.village»;
-- nearly-equal
SELECT DISTINCT c.name FROM clinic c JOIN visit v ON v.clinic_id = c.id JOIN pet p ON p.id = v.pet_id JOIN owner o ON «o.village = c.village»;
-- type-mismatch
SELECT i.id FROM invoice i JOIN visit v ON v.id = i.visit_id WHERE «i.sent_on = v.came_at»;
-- not-in-null
SELECT t.name FROM vet t WHERE «t.id NOT IN (SELECT v.assistant_id FROM visit v)»;
-- uncorrelated-exists
SELECT t.name FROM vet t WHERE «EXISTS (SELECT 1 FROM visit v WHERE v.vet_id = v.assistant_id)»;
-- type-mismatch
SELECT p.chip, p.name FROM pet p ORDER BY «CAST(p.id AS VARCHAR)»;
-- unordered-limit
SELECT v.id, v.came_at FROM visit v «LIMIT 3»;
-- average-of-averages
SELECT «AVG(q.m)» AS mean_weight FROM (SELECT v.pet_id, AVG(v.weight_kg) AS m FROM visit v GROUP BY v.pet_id) q;
-- natural-surprise
SELECT * FROM pet «NATURAL JOIN» owner;
-- natural-surprise
SELECT v.id, p.name FROM visit v JOIN pet p USING («id»);
-- condition-misses-table
SELECT o.last_name, p.name FROM owner o JOIN pet p ON «o.id = o.referred_by»;
-- not-a-reference
SELECT i.id FROM invoice i WHERE i.id IN (SELECT «p.id» FROM payment p WHERE p.amount > 100);
-- repeated-in-total
SELECT «SUM(i.rebate)» AS rebates, SUM(t.quantity * t.price) AS billed FROM invoice i JOIN invoice_item t ON t.invoice_id = i.id;
-- mixed-units
SELECT «SUM(i.rebate)» AS rebates, SUM(t.quantity * t.price) AS billed FROM invoice i JOIN invoice_item t ON t.invoice_id = i.id;
-- count-of-missing
SELECT o.id, COUNT(v.id) AS visits, SUM(v.weight_kg) / «COUNT(*)» AS mean_weight FROM owner o LEFT JOIN pet p ON p.owner_id = o.id LEFT JOIN visit v ON v.pet_id = p.id GROUP BY o.id;
-- reversed-self-join
SELECT o.last_name AS owner, r.last_name AS referrer FROM owner o JOIN owner r ON «r.referred_by = o.id»;
-- not-a-reference
SELECT p.id FROM pet p EXCEPT SELECT «v.id» FROM visit v;
-- repeated-in-total
SELECT g.name, «SUM(d.amount)» AS total_amount FROM drug g JOIN dose d ON d.drug_id = g.id JOIN visit v ON v.id = d.visit_id JOIN invoice i ON i.visit_id = v.id GROUP BY g.id, g.name;
-- rows-repeated
SELECT a.id, b.id AS next_stay FROM stay a «JOIN» stay b ON b.pet_id = a.pet_id AND b.from_day > a.from_day;
-- repeated-in-total
SELECT p.owner_id, «COUNT(*)» AS pets FROM pet p JOIN visit v ON v.pet_id = p.id GROUP BY p.owner_id HAVING COUNT(*) > 3;
-- accidental-outer-column
SELECT t.name FROM vet t WHERE t.id IN (SELECT «senior_id» FROM clinic);
-- null-comparison
SELECT x.pet_id, «MAX(x.valid_until)» AS protected_until FROM vaccination x WHERE x.disease = 'leptosp' GROUP BY x.pet_id;
-- null-comparison
SELECT «MAX(x.valid_until)» AS protected_until FROM vaccination x LEFT JOIN pet p ON p.id = x.pet_id;
-- null-comparison
SELECT p.id, «MAX(x.valid_until)» AS protected_until FROM pet p LEFT JOIN vaccination x ON p.id = x.pet_id AND x.disease = 'leptosp' GROUP BY p.id;
-- accidental-outer-column
SELECT t.name FROM vet t WHERE t.id IN (SELECT «senior_id» FROM clinic);
