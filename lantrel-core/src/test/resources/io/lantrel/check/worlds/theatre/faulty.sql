-- Faulty queries of the theatre company; the place that is told stands between « and ».


-- accidental-outer-column
SELECT title FROM play WHERE play_id IN (SELECT «play_id» FROM performance WHERE cancelled);

-- alias-of-other-table
SELECT c.part_id, u.stage_name AS understudy FROM casting c JOIN player u ON «u.player_id = c.player_id»;

-- always-true
SELECT st.house_id, st.staging_no, (SELECT MAX(r.stars) FROM review r WHERE «r.house_id = house_id» AND r.staging_no = staging_no) AS best FROM staging st;

-- cross-product
SELECT h.name, p.title FROM house h, staging st«,» play p WHERE st.house_id = h.house_id;

-- crossed-branches
SELECT st.house_id, p.starts_at, pl.stage_name FROM staging st JOIN performance p ON p.house_id = st.house_id AND p.staging_no = st.staging_no «JOIN» casting c ON c.house_id = st.house_id AND c.staging_no = st.staging_no JOIN player pl ON pl.player_id = c.player_id;

-- distinct-hides-repeats
SELECT t.sale_id, «SUM(DISTINCT t.price)» AS total FROM ticket t GROUP BY t.sale_id;
-- distinct-hides-repeats
SELECT s.sale_id, «SUM(DISTINCT t.price)» FROM sale s JOIN ticket t ON t.sale_id = s.sale_id JOIN seat se ON se.house_id = t.house_id AND se.seat_row = t.seat_row AND se.seat_no = t.seat_no GROUP BY s.sale_id;

-- filled-key
SELECT «st.play_id», COUNT(st.staging_no) AS n FROM play p LEFT JOIN staging st ON st.play_id = p.play_id GROUP BY st.play_id;
-- filled-key
SELECT «r.house_id», r.paper FROM house h LEFT JOIN review r ON r.house_id = h.house_id ORDER BY r.house_id;
-- filled-key
SELECT «m.patron_id», m.member_no FROM member m RIGHT JOIN patron pa ON m.patron_id = pa.patron_id;

-- filter-on-kept-side
SELECT p.performance_id, t.seat_row FROM performance p LEFT JOIN ticket t ON t.performance_id = p.performance_id AND «p.cancelled = FALSE»;

-- grouped-by-name
SELECT pl.stage_name, COUNT(*) AS parts FROM player pl JOIN casting c ON c.player_id = pl.player_id GROUP BY «pl.stage_name»;
-- grouped-by-name
SELECT p.title, COUNT(DISTINCT st.house_id) AS houses FROM play p LEFT JOIN staging st ON st.play_id = p.play_id GROUP BY «p.title»;
-- grouped-by-name
SELECT «COUNT(DISTINCT pl.stage_name)» AS players FROM player pl;
-- grouped-by-name
SELECT DISTINCT «p.title» FROM play p JOIN staging st ON st.play_id = p.play_id JOIN performance pe ON pe.house_id = st.house_id AND pe.staging_no = st.staging_no;

-- hierarchy-cut-short
WITH RECURSIVE s AS (SELECT play_id, title, 1 AS d FROM play WHERE sequel_to IS NULL UNION ALL SELECT p.play_id, p.title, s.d + 1 FROM play p JOIN s ON p.sequel_to = s.play_id WHERE «s.d < 2») SELECT * FROM s;

-- mirrored-pairs
SELECT a.stage_name, b.stage_name AS colleague FROM player a JOIN player b ON a.agent_id = b.agent_id AND «a.player_id <> b.player_id»;

-- mixed-and-or
SELECT p.performance_id FROM performance p WHERE «p.house_id = 1 OR p.house_id = 3 AND p.cancelled = FALSE»;

-- natural-surprise
SELECT h.name, b.amount FROM house h NATURAL JOIN budget b «NATURAL JOIN» tier_price tp;

-- never-a-partner
SELECT pa.full_name, pl.agent_id FROM patron pa FULL JOIN player pl ON «pl.stage_name = pa.full_name»;

-- never-a-row
SELECT t.performance_id FROM ticket t WHERE «t.discount = 0»;

-- never-true
SELECT p.title FROM play p JOIN staging st ON st.play_id = p.play_id GROUP BY p.play_id, p.title HAVING «COUNT(*) = 0»;
-- never-true
SELECT h.name FROM house h LEFT JOIN budget b ON b.house_id = h.house_id WHERE «b.house_id IS NULL» AND b.year = 2024;
-- never-true
SELECT p.performance_id FROM performance p WHERE «p.starts_at BETWEEN TIMESTAMP '2025-12-31 00:00:00' AND TIMESTAMP '2025-01-01 00:00:00'»;

-- not-a-reference
SELECT st.house_id, st.staging_no, d.stage_name AS director FROM staging st JOIN player d ON «d.home_house_id = st.house_id»;
-- not-a-reference
SELECT full_name FROM patron WHERE patron_id IN (SELECT «sale_id» FROM sale WHERE paid > 50);

-- not-in-null
SELECT title FROM play WHERE «play_id NOT IN (SELECT sequel_to FROM play)»;

-- null-comparison
SELECT t.performance_id, t.seat_row, t.seat_no, tp.amount FROM ticket t JOIN performance p ON p.performance_id = t.performance_id JOIN seat s ON s.house_id = t.house_id AND s.seat_row = t.seat_row AND s.seat_no = t.seat_no JOIN tier_price tp ON tp.house_id = s.house_id AND tp.tier = s.tier AND «p.starts_at BETWEEN tp.valid_from AND tp.valid_to»;
-- null-comparison
SELECT p.performance_id, c.player_id FROM performance p JOIN casting c ON c.house_id = p.house_id AND c.staging_no = p.staging_no WHERE p.starts_at >= c.from_date AND «p.starts_at <= c.to_date»;
-- null-comparison
SELECT title FROM play WHERE «withdrawn_on <> DATE '2024-03-01'»;
-- null-comparison
SELECT t.seat_row, t.seat_no FROM ticket t WHERE «NOT (t.discount = 5)»;
-- null-comparison
SELECT p.full_name FROM patron p JOIN member m ON m.patron_id = p.patron_id WHERE «DATE '2025-06-01' BETWEEN m.since AND m.until»;
-- null-comparison
SELECT pa.full_name FROM patron pa JOIN member m ON m.patron_id = pa.patron_id AND m.since <= DATE '2025-01-01' AND «m.until > DATE '2025-01-01'»;

-- null-swallows
SELECT t.performance_id, SUM(«t.price - r.amount») AS net FROM ticket t LEFT JOIN refund r ON r.performance_id = t.performance_id AND r.seat_row = t.seat_row AND r.seat_no = t.seat_no GROUP BY t.performance_id;
-- null-swallows
SELECT t.sale_id, SUM(«t.price - t.discount») AS due FROM ticket t GROUP BY t.sale_id;

-- outer-chain-broken
SELECT st.house_id, st.staging_no, d.stage_name, a.name FROM staging st LEFT JOIN player d ON d.player_id = st.director_id «JOIN» agent a ON a.agent_id = d.agent_id;
-- outer-chain-broken
SELECT h.name, p.title FROM house h LEFT JOIN staging st ON st.house_id = h.house_id «INNER JOIN» play p ON p.play_id = st.play_id;

-- outer-join-cancelled
SELECT t.performance_id, t.price, r.amount FROM ticket t LEFT JOIN refund r ON r.performance_id = t.performance_id AND r.seat_row = t.seat_row AND r.seat_no = t.seat_no WHERE «r.amount < t.price»;
-- outer-join-cancelled
SELECT h.name, b.amount FROM house h LEFT JOIN budget b ON b.house_id = h.house_id WHERE «b.year = 2024 OR b.year IS NULL»;
-- outer-join-cancelled
SELECT p.title, st.opens_on FROM staging st RIGHT JOIN play p ON p.play_id = st.play_id WHERE «st.closes_on IS NULL»;
-- outer-join-cancelled
SELECT h.name, b.year, b.amount FROM house h FULL JOIN budget b ON b.house_id = h.house_id WHERE «h.city = 'Orrin'»;

-- partial-key
SELECT t.performance_id, s.tier FROM ticket t JOIN seat s ON «s.seat_row = t.seat_row» AND s.seat_no = t.seat_no;
-- partial-key
SELECT st.play_id, c.player_id FROM staging st JOIN casting c ON «c.staging_no = st.staging_no»;
-- partial-key
SELECT t.performance_id, t.seat_row, t.seat_no, tp.amount FROM ticket t JOIN seat s ON s.house_id = t.house_id AND s.seat_row = t.seat_row AND s.seat_no = t.seat_no JOIN tier_price tp ON tp.house_id = s.house_id AND «tp.tier = s.tier»;
-- partial-key
SELECT p.performance_id, pl.stage_name, pa.part_name FROM performance p JOIN casting c ON c.house_id = p.house_id AND «c.staging_no = p.staging_no» JOIN part pa ON pa.part_id = c.part_id JOIN player pl ON pl.player_id = c.player_id;
-- partial-key
SELECT r.house_id, r.staging_no, r.paper FROM review r WHERE r.printed_on = (SELECT MAX(x.printed_on) FROM review x WHERE «x.staging_no = r.staging_no»);
-- partial-key
SELECT r.house_id, r.staging_no, r.paper FROM review r WHERE «r.printed_on IN (SELECT MAX(x.printed_on) FROM review x GROUP BY x.house_id, x.staging_no)»;
-- partial-key
SELECT q.house_id, q.staging_no, q.paper FROM (SELECT r.*, ROW_NUMBER() OVER (PARTITION BY «r.staging_no» ORDER BY r.printed_on DESC, r.review_id) AS rn FROM review r) q WHERE q.rn = 1;
-- partial-key
SELECT c.staging_no, COUNT(*) AS parts FROM casting c GROUP BY «c.staging_no»;
-- partial-key
SELECT t.performance_id, «COUNT(DISTINCT t.seat_no)» AS seats FROM ticket t GROUP BY t.performance_id;
-- partial-key
SELECT p.performance_id, r.paper, r.stars FROM performance p JOIN review r ON «r.staging_no = p.staging_no»;
-- partial-key
SELECT pa.full_name, s.sold_at, s.paid FROM patron pa JOIN sale s ON s.patron_id = pa.patron_id JOIN (SELECT patron_id, MAX(sold_at) AS last FROM sale GROUP BY patron_id) m ON «m.last = s.sold_at»;
-- partial-key
SELECT h.name, «COUNT(DISTINCT s.seat_no)» AS seats FROM house h JOIN seat s ON s.house_id = h.house_id GROUP BY h.house_id, h.name;

-- partner-test-on-nullable
SELECT st.house_id, st.staging_no FROM staging st LEFT JOIN review r ON r.house_id = st.house_id AND r.staging_no = st.staging_no WHERE «r.stars IS NULL»;

-- repeated-in-total
SELECT s.patron_id, «SUM(s.paid)» AS paid, COUNT(*) AS tickets FROM sale s JOIN ticket t ON t.sale_id = s.sale_id GROUP BY s.patron_id;
-- repeated-in-total
SELECT st.house_id, st.staging_no, «COUNT(p.performance_id)» AS shows, AVG(r.stars) AS stars FROM staging st LEFT JOIN performance p ON p.house_id = st.house_id AND p.staging_no = st.staging_no LEFT JOIN review r ON r.house_id = st.house_id AND r.staging_no = st.staging_no GROUP BY st.house_id, st.staging_no;
-- repeated-in-total
SELECT st.house_id, st.staging_no, «STRING_AGG(pl.stage_name, ', ')» AS players FROM staging st JOIN casting c ON c.house_id = st.house_id AND c.staging_no = st.staging_no JOIN player pl ON pl.player_id = c.player_id JOIN performance p ON p.house_id = st.house_id AND p.staging_no = st.staging_no GROUP BY st.house_id, st.staging_no;
-- repeated-in-total
SELECT s.sale_id, «SUM(s.paid) OVER (PARTITION BY s.patron_id)» AS paid_by_patron FROM sale s JOIN ticket t ON t.sale_id = s.sale_id;
-- repeated-in-total
SELECT t.performance_id, «SUM(tp.amount)» AS list_price FROM ticket t JOIN seat s ON s.house_id = t.house_id AND s.seat_row = t.seat_row AND s.seat_no = t.seat_no JOIN tier_price tp ON tp.house_id = s.house_id AND tp.tier = s.tier GROUP BY t.performance_id;
-- repeated-in-total
SELECT h.name, «SUM(b.amount)» AS budget, (SELECT SUM(t.price) FROM ticket t WHERE t.house_id = h.house_id) AS taken FROM house h JOIN budget b ON b.house_id = h.house_id JOIN staging st ON st.house_id = h.house_id GROUP BY h.house_id, h.name;
-- repeated-in-total
SELECT pa.full_name, COUNT(s.sale_id) AS sales, «COUNT(g.patron_id)» AS guests FROM patron pa LEFT JOIN sale s ON s.patron_id = pa.patron_id LEFT JOIN patron g ON g.guest_of = pa.patron_id GROUP BY pa.patron_id, pa.full_name;

-- reversed-self-join
SELECT host.full_name AS host, guest.full_name AS guest FROM patron host JOIN patron guest ON «host.guest_of = guest.patron_id»;
-- reversed-self-join
SELECT child.name, parent.name AS parent FROM house child LEFT JOIN house parent ON «parent.parent_house_id = child.house_id»;

-- rows-without-partner
SELECT p.title, g.label FROM play p «JOIN» genre g ON g.code = p.genre_code;
-- partial-key
SELECT p.performance_id, st.play_id FROM performance p JOIN staging st ON st.house_id = p.house_id AND «st.staging_no = p.performance_id»;
-- rows-without-partner
SELECT c.part_id, pl.stage_name, u.stage_name AS understudy FROM casting c JOIN player pl ON pl.player_id = c.player_id «JOIN» player u ON u.player_id = c.understudy_id;

-- self-match
SELECT g.full_name, h.full_name AS host FROM patron g JOIN patron h ON «g.guest_of = h.guest_of»;
-- self-match
SELECT g.full_name, h.full_name AS host FROM patron g JOIN patron h ON «g.patron_id = h.patron_id»;
-- self-match
SELECT a.staging_no, b.staging_no AS other FROM staging a JOIN staging b ON «a.house_id = b.house_id» AND a.opens_on < b.closes_on AND b.opens_on < a.closes_on;

-- subquery-many-rows
SELECT st.house_id, «(SELECT r.stars FROM review r WHERE r.house_id = st.house_id AND r.staging_no = st.staging_no)» AS stars FROM staging st;

-- swapped-columns
SELECT house_id, staging_no FROM staging UNION ALL SELECT «staging_no», house_id FROM review;

-- type-mismatch
SELECT p.performance_id FROM performance p WHERE «p.starts_at = '2025-01-10'»;

-- uncorrelated-exists
SELECT st.house_id, st.staging_no FROM staging st WHERE «EXISTS (SELECT 1 FROM review r WHERE r.stars = 5)»;
-- uncorrelated-exists
SELECT pl.stage_name FROM player pl WHERE NOT «EXISTS (SELECT 1 FROM casting c WHERE c.player_id = c.understudy_id)»;

-- unknown-column
SELECT p.title, s.paid FROM play p JOIN sale s USING («play_id»);

-- wildcard-outside-like
SELECT p.title FROM play p WHERE «p.title = '%Key%'»;
-- null-comparison
SELECT tp.house_id, tp.tier, «MAX(tp.valid_to)» AS last_day FROM tier_price tp GROUP BY tp.house_id, tp.tier;
