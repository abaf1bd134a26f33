-- Correct queries of the theatre company that look suspicious, or not.

-- right
SELECT t.performance_id, t.seat_row, t.seat_no, tp.amount FROM ticket t JOIN performance p ON p.performance_id = t.performance_id JOIN seat s ON s.house_id = t.house_id AND s.seat_row = t.seat_row AND s.seat_no = t.seat_no JOIN tier_price tp ON tp.house_id = s.house_id AND tp.tier = s.tier AND p.starts_at >= tp.valid_from AND (tp.valid_to IS NULL OR p.starts_at < tp.valid_to);
-- right
SELECT s.house_id, s.seat_row, s.seat_no, tp.amount FROM seat s JOIN tier_price tp ON tp.house_id = s.house_id AND tp.tier = s.tier WHERE tp.valid_to IS NULL;
-- right
SELECT s.seat_row, s.seat_no, tp.valid_from, tp.amount FROM seat s JOIN tier_price tp ON tp.house_id = s.house_id AND tp.tier = s.tier ORDER BY s.seat_row, s.seat_no, tp.valid_from;
-- right
SELECT t.seat_row, COUNT(*) AS sold FROM ticket t GROUP BY t.seat_row;
-- right
SELECT b.year, SUM(b.amount) AS total FROM budget b GROUP BY b.year;
-- right
SELECT p.staging_no, COUNT(*) AS shows FROM performance p WHERE p.house_id = 2 GROUP BY p.staging_no;
-- right
SELECT st.house_id, st.staging_no, COUNT(p.performance_id) AS shows FROM staging st LEFT JOIN performance p ON p.house_id = st.house_id AND p.staging_no = st.staging_no GROUP BY st.house_id, st.staging_no;
-- right
SELECT st.staging_no, COUNT(DISTINCT st.house_id) AS houses FROM staging st GROUP BY st.staging_no;
-- right
SELECT r.house_id, r.staging_no, r.paper FROM review r WHERE (r.house_id, r.staging_no, r.printed_on) IN (SELECT x.house_id, x.staging_no, MAX(x.printed_on) FROM review x GROUP BY x.house_id, x.staging_no);
-- right
SELECT r.paper, r.stars FROM review r WHERE r.review_id IN (SELECT MAX(x.review_id) FROM review x GROUP BY x.house_id, x.staging_no);
-- right
SELECT r.paper FROM review r WHERE r.printed_on = (SELECT MAX(x.printed_on) FROM review x WHERE x.house_id = r.house_id AND x.staging_no = r.staging_no);
-- right
SELECT q.paper FROM (SELECT r.*, ROW_NUMBER() OVER (PARTITION BY r.house_id, r.staging_no ORDER BY r.printed_on DESC, r.review_id) AS rn FROM review r) q WHERE q.rn = 1;
-- right
SELECT a.title, b.title AS sequel FROM play a JOIN play b ON b.sequel_to = a.play_id;
-- right
SELECT title FROM play WHERE withdrawn_on IS NULL;
-- right
SELECT title FROM play WHERE withdrawn_on <> DATE '2024-03-01' OR withdrawn_on IS NULL;
-- right
SELECT h.house_id, h.name, r.paper FROM house h LEFT JOIN review r ON r.house_id = h.house_id;
-- right
SELECT h.house_id, r.house_id AS reviewed FROM house h LEFT JOIN review r ON r.house_id = h.house_id;
-- right
SELECT COALESCE(pa.patron_id, m.patron_id) AS patron_id, pa.full_name, m.member_no FROM patron pa FULL JOIN member m ON m.patron_id = pa.patron_id;
-- right
SELECT pa.full_name FROM patron pa LEFT JOIN member m ON m.patron_id = pa.patron_id WHERE m.patron_id IS NULL;
-- right
SELECT st.house_id, st.staging_no, d.stage_name AS director FROM staging st LEFT JOIN player d ON d.player_id = st.director_id;
-- right
SELECT st.house_id, st.staging_no, d.stage_name AS local FROM staging st JOIN player d ON d.home_house_id = st.house_id;
-- right
SELECT a.staging_no, b.staging_no AS other FROM staging a JOIN staging b ON a.house_id = b.house_id AND a.staging_no < b.staging_no AND a.opens_on < COALESCE(b.closes_on, DATE '9999-12-31') AND b.opens_on < COALESCE(a.closes_on, DATE '9999-12-31');
-- right
SELECT h.name, COUNT(s.seat_no) AS seats FROM house h JOIN seat s ON s.house_id = h.house_id GROUP BY h.house_id, h.name;
-- right
SELECT h.name, COUNT(DISTINCT s.seat_row) AS seat_rows FROM house h JOIN seat s ON s.house_id = h.house_id GROUP BY h.house_id, h.name;
-- right
SELECT t.sale_id, SUM(t.price - COALESCE(t.discount, 0)) AS due FROM ticket t GROUP BY t.sale_id;
-- right
SELECT s.sale_id, s.paid, d.due FROM sale s JOIN (SELECT sale_id, SUM(price - COALESCE(discount, 0)) AS due FROM ticket GROUP BY sale_id) d ON d.sale_id = s.sale_id WHERE s.paid <> d.due;
-- right
SELECT st.house_id, st.staging_no, AVG(st.closes_on - st.opens_on) AS days FROM staging st GROUP BY st.house_id, st.staging_no;
-- right
SELECT p.performance_id, pl.stage_name FROM performance p JOIN casting c ON c.house_id = p.house_id AND c.staging_no = p.staging_no AND p.starts_at >= c.from_date AND (c.to_date IS NULL OR p.starts_at < c.to_date + 1) JOIN player pl ON pl.player_id = c.player_id;
-- right
SELECT DISTINCT pl.player_id, pl.stage_name FROM player pl JOIN casting c ON pl.player_id IN (c.player_id, c.understudy_id);
-- right
SELECT c.part_id, pl.stage_name, u.stage_name AS understudy FROM casting c JOIN player pl ON pl.player_id = c.player_id LEFT JOIN player u ON u.player_id = c.understudy_id;
-- right
SELECT st.house_id, st.staging_no, p.shows, r.stars FROM staging st LEFT JOIN (SELECT house_id, staging_no, COUNT(*) AS shows FROM performance GROUP BY house_id, staging_no) p ON p.house_id = st.house_id AND p.staging_no = st.staging_no LEFT JOIN (SELECT house_id, staging_no, AVG(stars) AS stars FROM review GROUP BY house_id, staging_no) r ON r.house_id = st.house_id AND r.staging_no = st.staging_no;
-- right
SELECT p.performance_id FROM performance p WHERE p.cancelled <> TRUE;
-- right
SELECT g.full_name, h.full_name AS host FROM patron g LEFT JOIN patron h ON h.patron_id = g.guest_of;
-- right
SELECT h.full_name AS host, g.full_name AS guest FROM patron h JOIN patron g ON g.guest_of = h.patron_id ORDER BY h.patron_id, g.patron_id;
-- right
SELECT h.name, EXTRACT(YEAR FROM p.starts_at) AS year, SUM(t.price) AS taken FROM house h JOIN performance p ON p.house_id = h.house_id JOIN ticket t ON t.performance_id = p.performance_id GROUP BY h.house_id, h.name, EXTRACT(YEAR FROM p.starts_at);
-- right
SELECT p.performance_id, b.amount FROM performance p LEFT JOIN budget b ON b.house_id = p.house_id AND b.year = EXTRACT(YEAR FROM p.starts_at);
-- right
SELECT COUNT(DISTINCT t.price) AS prices FROM ticket t;
-- right
SELECT s.sale_id, COALESCE(pa.full_name, 'counter') AS buyer FROM sale s LEFT JOIN patron pa ON pa.patron_id = s.patron_id ORDER BY s.sale_id;
-- right
SELECT COALESCE(g.label, 'none') AS genre, COUNT(*) AS plays FROM play p LEFT JOIN genre g ON g.code = p.genre_code GROUP BY COALESCE(g.label, 'none');
-- right
SELECT g.label, COUNT(*) AS plays FROM play p LEFT JOIN genre g ON g.code = p.genre_code GROUP BY g.label;
-- right
SELECT p.genre_code, COUNT(*) AS plays FROM play p LEFT JOIN genre g ON g.code = p.genre_code GROUP BY p.genre_code;
-- right
SELECT a.performance_id, b.performance_id AS other, a.seat_row, a.seat_no FROM ticket a JOIN ticket b ON b.house_id = a.house_id AND b.seat_row = a.seat_row AND b.seat_no = a.seat_no AND a.performance_id < b.performance_id ORDER BY a.performance_id, b.performance_id;
-- right
SELECT t.performance_id, SUM(t.price) AS taken, SUM(COALESCE(r.amount, 0)) AS back FROM ticket t LEFT JOIN refund r ON r.performance_id = t.performance_id AND r.seat_row = t.seat_row AND r.seat_no = t.seat_no GROUP BY t.performance_id;
-- right
SELECT tp.house_id, tp.tier, tp.valid_from, tp.amount - LAG(tp.amount) OVER (PARTITION BY tp.house_id, tp.tier ORDER BY tp.valid_from) AS raised FROM tier_price tp;
-- right
WITH RECURSIVE below AS (SELECT house_id, name FROM house WHERE parent_house_id IS NULL AND house_id = 1 UNION ALL SELECT h.house_id, h.name FROM house h JOIN below b ON h.parent_house_id = b.house_id) SELECT name FROM below ORDER BY house_id;
-- right
SELECT pl.stage_name FROM player pl WHERE NOT EXISTS (SELECT 1 FROM casting c WHERE c.player_id = pl.player_id OR c.understudy_id = pl.player_id);
-- right
SELECT st.house_id, st.staging_no, (SELECT MAX(r.stars) FROM review r WHERE r.house_id = st.house_id AND r.staging_no = st.staging_no) AS best FROM staging st;
-- right
SELECT a.house_id, b.house_id AS other, a.staging_no FROM staging a JOIN staging b ON b.staging_no = a.staging_no AND b.house_id > a.house_id ORDER BY a.house_id, b.house_id, a.staging_no;
-- right
SELECT p.performance_id, r.paper, r.printed_on FROM performance p JOIN review r ON r.staging_no = p.staging_no WHERE p.house_id = 1 AND r.house_id = 1;
-- right
SELECT tp.house_id, tp.tier, tp.amount FROM tier_price tp WHERE tp.valid_from <= DATE '2025-05-01' AND (tp.valid_to IS NULL OR tp.valid_to >= DATE '2025-05-01') ORDER BY tp.house_id, tp.tier;
-- right
SELECT s.house_id, s.seat_row, s.seat_no FROM seat s LEFT JOIN ticket t ON t.house_id = s.house_id AND t.seat_row = s.seat_row AND t.seat_no = s.seat_no WHERE t.seat_no IS NULL;
-- right
SELECT t.house_id, t.seat_row, t.seat_no, COUNT(*) AS sold FROM ticket t GROUP BY t.house_id, t.seat_row, t.seat_no ORDER BY sold DESC, t.house_id, t.seat_row, t.seat_no;
-- right
SELECT m.member_no, m.until FROM member m WHERE m.until <> DATE '2025-01-01' AND m.until IS NOT NULL;
-- right
SELECT pa.patron_id, pa.full_name, COALESCE(SUM(s.paid), 0) AS paid FROM patron pa LEFT JOIN sale s ON s.patron_id = pa.patron_id GROUP BY pa.patron_id, pa.full_name ORDER BY pa.patron_id;
-- right
SELECT b.name, a.name AS parent FROM house b LEFT JOIN house a ON a.house_id = b.parent_house_id ORDER BY b.house_id;
-- right
SELECT q.house_id, q.tier, q.amount FROM (SELECT tp.*, ROW_NUMBER() OVER (PARTITION BY tp.house_id, tp.tier ORDER BY tp.valid_from DESC) AS n FROM tier_price tp) q WHERE q.n = 1;
-- right
SELECT t.performance_id, t.seat_row, t.seat_no, r.amount AS refunded FROM ticket t LEFT JOIN refund r ON r.performance_id = t.performance_id AND r.seat_row = t.seat_row AND r.seat_no = t.seat_no ORDER BY t.performance_id, t.seat_row, t.seat_no;
-- right
SELECT p.author, COUNT(DISTINCT st.house_id) AS houses FROM play p JOIN staging st ON st.play_id = p.play_id GROUP BY p.author HAVING COUNT(DISTINCT st.house_id) > 1;
-- right
SELECT p.play_id, p.title FROM play p WHERE NOT EXISTS (SELECT 1 FROM part x WHERE x.play_id = p.play_id AND x.lead);
-- right
SELECT a.stage_name, b.stage_name AS colleague FROM player a JOIN player b ON b.agent_id = a.agent_id AND b.player_id > a.player_id ORDER BY a.player_id, b.player_id;
-- right
SELECT st.opens_on AS day, 'opens' AS what FROM staging st UNION ALL SELECT st.closes_on, 'closes' FROM staging st WHERE st.closes_on IS NOT NULL ORDER BY 1, 2;
-- right
SELECT s.house_id, s.tier, SUM(t.price) AS taken FROM seat s JOIN ticket t ON t.house_id = s.house_id AND t.seat_row = s.seat_row AND t.seat_no = s.seat_no GROUP BY s.house_id, s.tier ORDER BY s.house_id, s.tier;
-- right
SELECT p.performance_id, t.seat_row, t.seat_no, t.price FROM (staging s JOIN performance p ON p.house_id = s.house_id AND p.staging_no = s.staging_no AND s.opens_on > DATE '2025-02-15') JOIN (seat s JOIN ticket t ON t.house_id = s.house_id AND t.seat_row = s.seat_row AND t.seat_no = s.seat_no AND s.tier = 'G') ON t.performance_id = p.performance_id ORDER BY p.performance_id, t.seat_row, t.seat_no;
