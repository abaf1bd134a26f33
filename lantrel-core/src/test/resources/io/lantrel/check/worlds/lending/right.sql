-- Correct queries of the lending library; none has a warning.

-- right
SELECT m.last_name, b.branch_name FROM member m LEFT JOIN branch b ON b.branch_id = m.home_branch_id ORDER BY m.last_name, m.member_id;
-- right
SELECT b.branch_name, COUNT(l.loan_id) AS loans FROM branch b LEFT JOIN loan l ON l.branch_id = b.branch_id GROUP BY b.branch_id, b.branch_name;
-- right
SELECT b.branch_name, COUNT(l.loan_id) AS open FROM branch b LEFT JOIN loan l ON l.branch_id = b.branch_id AND l.returned_at IS NULL GROUP BY b.branch_id, b.branch_name;
-- right
SELECT bo.title, a.last_name, ba.position FROM book bo LEFT JOIN book_author ba ON ba.isbn = bo.isbn LEFT JOIN author a ON a.author_id = ba.author_id ORDER BY bo.isbn, ba.position;
-- right
SELECT c.name, m.name AS manager FROM clerk c LEFT JOIN clerk m ON m.clerk_id = c.manager_id;
-- right
SELECT l.loan_id, c.isbn, bo.title FROM loan l JOIN copy c ON c.branch_id = l.branch_id AND c.copy_no = l.copy_no JOIN book bo ON bo.isbn = c.isbn;
-- right
SELECT l.loan_id, bo.title, m.last_name FROM loan l JOIN copy c ON (c.branch_id, c.copy_no) = (l.branch_id, l.copy_no) JOIN book bo USING (isbn) JOIN member m USING (member_id);
-- right
SELECT m.member_id, m.last_name FROM member m WHERE NOT EXISTS (SELECT 1 FROM loan l WHERE l.member_id = m.member_id);
-- right
SELECT m.member_id, m.last_name FROM member m LEFT JOIN loan l ON l.member_id = m.member_id WHERE l.loan_id IS NULL;
-- right
SELECT m.member_id FROM member m EXCEPT SELECT l.member_id FROM loan l;
-- right
SELECT m.member_id, m.last_name, q.loans, COALESCE(f.fines, 0) AS fines FROM member m JOIN (SELECT member_id, COUNT(*) AS loans FROM loan GROUP BY member_id) q ON q.member_id = m.member_id LEFT JOIN (SELECT l.member_id, SUM(f.amount) AS fines FROM fine f JOIN loan l ON l.loan_id = f.loan_id GROUP BY l.member_id) f ON f.member_id = m.member_id;
-- right
WITH last AS (SELECT l.*, ROW_NUMBER() OVER (PARTITION BY l.member_id ORDER BY l.lent_at DESC, l.loan_id DESC) AS rn FROM loan l) SELECT m.last_name, last.lent_at FROM member m LEFT JOIN last ON last.member_id = m.member_id AND last.rn = 1;
-- right
SELECT m.last_name, (SELECT MAX(l.lent_at) FROM loan l WHERE l.member_id = m.member_id) AS last_lent FROM member m;
-- right
SELECT bo.title FROM book bo WHERE bo.price > (SELECT AVG(x.price) FROM book x WHERE x.publisher_id = bo.publisher_id);
-- right
SELECT p.name, COUNT(*) AS books, SUM(bo.price) AS total FROM publisher p JOIN book bo ON bo.publisher_id = p.publisher_id GROUP BY p.publisher_id, p.name HAVING COUNT(*) > 2;
-- right
WITH RECURSIVE t AS (SELECT branch_id, branch_name, 0 AS depth FROM branch WHERE parent_branch_id IS NULL UNION ALL SELECT b.branch_id, b.branch_name, t.depth + 1 FROM branch b JOIN t ON b.parent_branch_id = t.branch_id) SELECT * FROM t ORDER BY depth, branch_id;
-- right
WITH RECURSIVE up AS (SELECT clerk_id, name, manager_id FROM clerk WHERE name = 'Sal' UNION ALL SELECT c.clerk_id, c.name, c.manager_id FROM clerk c JOIN up ON c.clerk_id = up.manager_id) SELECT name FROM up;
-- right
SELECT c.state, COUNT(*) AS n, AVG(c.cost) AS mean FROM copy c GROUP BY c.state ORDER BY c.state;
-- right
SELECT b.city, COUNT(DISTINCT l.member_id) AS readers FROM branch b JOIN loan l ON l.branch_id = b.branch_id GROUP BY b.city;
-- right
SELECT a.last_name, a.first_name, COUNT(ba.isbn) AS books FROM author a LEFT JOIN book_author ba ON ba.author_id = a.author_id GROUP BY a.author_id, a.last_name, a.first_name ORDER BY books DESC, a.author_id;
-- right
SELECT x.title AS book, s.title AS sequel FROM book x JOIN book s ON s.sequel_of = x.isbn;
-- right
SELECT m.last_name AS member, r.last_name AS referrer FROM member m LEFT JOIN member r ON r.member_id = m.referred_by;
-- right
SELECT r.member_id, r.last_name, COUNT(m.member_id) AS referred FROM member r LEFT JOIN member m ON m.referred_by = r.member_id GROUP BY r.member_id, r.last_name;
-- right
SELECT h.hold_id, bo.title, m.last_name, b.branch_name FROM hold h JOIN book bo ON bo.isbn = h.isbn JOIN member m ON m.member_id = h.member_id LEFT JOIN branch b ON b.branch_id = h.branch_id;
-- right
SELECT b.branch_name, (SELECT COUNT(*) FROM copy c WHERE c.branch_id = b.branch_id) AS copies, (SELECT COUNT(*) FROM clerk k WHERE k.branch_id = b.branch_id) AS clerks FROM branch b;
-- right
SELECT bo.isbn, bo.title, COUNT(DISTINCT ba.author_id) AS authors, COUNT(DISTINCT h.hold_id) AS holds FROM book bo LEFT JOIN book_author ba ON ba.isbn = bo.isbn LEFT JOIN hold h ON h.isbn = bo.isbn GROUP BY bo.isbn, bo.title;
-- right
SELECT l.loan_id, l.lent_at, LAG(l.lent_at) OVER (PARTITION BY l.member_id ORDER BY l.lent_at, l.loan_id) AS previous FROM loan l;
-- right
SELECT l.loan_id FROM loan l WHERE l.lent_at >= DATE '2024-03-01' AND l.lent_at < DATE '2024-04-01';
-- right
SELECT 'member' AS who, m.last_name FROM member m UNION ALL SELECT 'author', a.last_name FROM author a;
-- right
SELECT last_name FROM member UNION SELECT last_name FROM author ORDER BY 1;
-- right
SELECT k.name, b.branch_name, pb.branch_name AS parent_branch FROM clerk k JOIN branch b ON b.branch_id = k.branch_id LEFT JOIN branch pb ON pb.branch_id = b.parent_branch_id;
-- right
SELECT m.last_name, SUM(f.amount) - COALESCE(SUM(f.paid), 0) AS due FROM member m JOIN loan l ON l.member_id = m.member_id JOIN fine f ON f.loan_id = l.loan_id GROUP BY m.member_id, m.last_name;
-- right
SELECT b.branch_name, 100.0 * COUNT(l.returned_at) / NULLIF(COUNT(l.loan_id), 0) AS pct FROM branch b LEFT JOIN loan l ON l.branch_id = b.branch_id GROUP BY b.branch_id, b.branch_name;
-- right
SELECT c.branch_id, c.copy_no FROM copy c WHERE NOT EXISTS (SELECT 1 FROM loan l WHERE l.branch_id = c.branch_id AND l.copy_no = c.copy_no AND l.returned_at IS NULL);
-- right
SELECT bo.title FROM book bo WHERE bo.isbn IN (SELECT h.isbn FROM hold h) AND bo.isbn NOT IN (SELECT c.isbn FROM copy c);
-- right
SELECT d.m, COUNT(l.loan_id) AS n FROM (SELECT DISTINCT EXTRACT(MONTH FROM lent_at) AS m FROM loan) d LEFT JOIN loan l ON EXTRACT(MONTH FROM l.lent_at) = d.m GROUP BY d.m ORDER BY d.m;
-- right
SELECT b1.branch_name, b2.branch_name AS other FROM branch b1 JOIN branch b2 ON b2.city = b1.city AND b2.branch_id > b1.branch_id;
-- right
SELECT m.last_name, b.branch_name, COUNT(l.loan_id) AS n FROM member m CROSS JOIN branch b LEFT JOIN loan l ON l.member_id = m.member_id AND l.branch_id = b.branch_id GROUP BY m.member_id, m.last_name, b.branch_id, b.branch_name;
-- right
SELECT bo.title, CASE WHEN c.n IS NULL THEN 'none' ELSE 'some' END AS copies FROM book bo LEFT JOIN (SELECT isbn, COUNT(*) AS n FROM copy GROUP BY isbn) c ON c.isbn = bo.isbn;
-- right
SELECT m.last_name, x.lent_at FROM member m LEFT JOIN LATERAL (SELECT l.lent_at FROM loan l WHERE l.member_id = m.member_id ORDER BY l.lent_at DESC LIMIT 1) x ON TRUE;
-- right
SELECT m.member_id, m.first_name, m.last_name FROM member m WHERE m.email IS NULL OR m.email NOT LIKE '%@%';
-- right
SELECT p.name, bo.title FROM publisher p FULL JOIN book bo ON bo.publisher_id = p.publisher_id;
-- right
SELECT bo.title, bo.price, AVG(bo.price) OVER (PARTITION BY bo.publisher_id) AS mean_price FROM book bo WHERE bo.publisher_id IS NOT NULL;
-- right
SELECT l.member_id, MIN(l.lent_at) AS first_at, MAX(l.lent_at) AS last_at, COUNT(*) AS n FROM loan l GROUP BY l.member_id ORDER BY n DESC, l.member_id LIMIT 5;
-- right
SELECT c.isbn, c.branch_id, c.copy_no, c.cost FROM copy c JOIN (SELECT isbn, MIN(cost) AS least FROM copy GROUP BY isbn) x ON x.isbn = c.isbn AND x.least = c.cost;
-- right
SELECT DISTINCT bo.isbn, bo.title FROM book bo JOIN hold h ON h.isbn = bo.isbn WHERE h.placed_at >= DATE '2024-05-10';
-- right
SELECT COALESCE(b.city, 'all') AS city, COUNT(*) AS branches FROM branch b GROUP BY ROLLUP (b.city);
-- right
SELECT m.last_name, STRING_AGG(bo.title, ', ' ORDER BY bo.title) AS held FROM member m JOIN hold h ON h.member_id = m.member_id JOIN book bo ON bo.isbn = h.isbn GROUP BY m.member_id, m.last_name;
-- right
SELECT q.city, SUM(q.loans) AS loans, SUM(q.holds) AS holds FROM (SELECT b.city, COUNT(*) AS loans, 0 AS holds FROM branch b JOIN loan l ON l.branch_id = b.branch_id GROUP BY b.city UNION ALL SELECT b.city, 0, COUNT(*) FROM branch b JOIN hold h ON h.branch_id = b.branch_id GROUP BY b.city) q GROUP BY q.city;
-- right
SELECT f.fine_id, f.amount, m.last_name FROM fine f, loan l, member m WHERE f.loan_id = l.loan_id AND l.member_id = m.member_id AND f.paid IS NULL;
-- right
SELECT k.name, COUNT(l.loan_id) AS handled FROM clerk k LEFT JOIN loan l ON l.clerk_id = k.clerk_id GROUP BY k.clerk_id, k.name;
-- right
SELECT m.last_name FROM member m WHERE m.home_branch_id = ANY (SELECT b.branch_id FROM branch b WHERE b.city = 'Pell');
-- right
SELECT SUM(CASE WHEN l.returned_at IS NULL THEN 1 ELSE 0 END) AS open, COUNT(*) AS all_loans FROM loan l;
-- right
SELECT bo.title, bo.price FROM book bo ORDER BY bo.price DESC NULLS LAST, bo.isbn FETCH FIRST 3 ROWS ONLY;
-- right
SELECT b.branch_name FROM branch b WHERE (SELECT COUNT(*) FROM clerk k WHERE k.branch_id = b.branch_id) >= 2;
-- right
SELECT x.isbn, a.last_name AS first_author, b.last_name AS second_author FROM book_author x JOIN book_author y ON y.isbn = x.isbn AND y.position = 2 JOIN author a ON a.author_id = x.author_id JOIN author b ON b.author_id = y.author_id WHERE x.position = 1;
-- right
SELECT l.loan_id, f.amount FROM loan l LEFT JOIN fine f ON f.loan_id = l.loan_id WHERE f.amount > 2 OR f.fine_id IS NULL;
-- right
SELECT m.member_id, COUNT(DISTINCT l.branch_id) AS branches FROM member m JOIN loan l ON l.member_id = m.member_id GROUP BY m.member_id HAVING COUNT(DISTINCT l.branch_id) > 1;
-- right
SELECT CAST(l.lent_at AS DATE) AS day, COUNT(*) AS n FROM loan l GROUP BY CAST(l.lent_at AS DATE) ORDER BY day;
-- right
SELECT b.branch_name, SUM(CASE WHEN l.returned_at IS NOT NULL THEN 1 ELSE 0 END) AS back FROM branch b LEFT JOIN loan l ON l.branch_id = b.branch_id GROUP BY b.branch_id, b.branch_name;
-- right
SELECT b.city, SUM(CASE WHEN l.loan_id IS NULL THEN 1 ELSE 0 END) AS without FROM branch b LEFT JOIN loan l ON l.branch_id = b.branch_id GROUP BY b.city;
-- right
SELECT b.branch_name, COUNT(CASE WHEN l.returned_at IS NULL THEN l.loan_id END) AS open FROM branch b LEFT JOIN loan l ON l.branch_id = b.branch_id GROUP BY b.branch_id, b.branch_name;
-- right
SELECT b.branch_name, COUNT(CASE WHEN l.returned_at IS NULL AND l.loan_id IS NOT NULL THEN 1 END) AS open FROM branch b LEFT JOIN loan l ON l.branch_id = b.branch_id GROUP BY b.branch_id, b.branch_name;
-- right
SELECT k.title, b.last_name AS other FROM book k JOIN book_author x ON x.isbn = k.isbn JOIN book_author y ON y.isbn = x.isbn AND y.author_id <> x.author_id JOIN author a ON a.author_id = x.author_id JOIN author b ON b.author_id = y.author_id WHERE a.last_name = 'Bell';
-- right
SELECT k.title, a.last_name, b.last_name AS other FROM book k JOIN book_author x ON x.isbn = k.isbn JOIN book_author y ON y.isbn = x.isbn AND y.author_id <> x.author_id AND x.position < y.position JOIN author a ON a.author_id = x.author_id JOIN author b ON b.author_id = y.author_id;
-- right
SELECT k.title, a.last_name, b.last_name AS other FROM book k JOIN book_author x ON x.isbn = k.isbn AND x.position = 1 JOIN book_author y ON y.isbn = x.isbn AND y.author_id <> x.author_id JOIN author a ON a.author_id = x.author_id JOIN author b ON b.author_id = y.author_id;
-- right
SELECT m.last_name, x.lent_at FROM member m LEFT JOIN LATERAL (SELECT l.lent_at FROM loan l WHERE l.member_id = m.member_id ORDER BY l.lent_at DESC, l.loan_id LIMIT 1) x ON TRUE;
-- right
SELECT b.title FROM book b WHERE b.price > 9 AND b.isbn > '978';
-- right
SELECT b.title, s.title FROM book b JOIN book s ON s.sequel_of = b.isbn OR b.sequel_of = s.isbn;
-- right
SELECT m.last_name, r.last_name AS other FROM member m JOIN member r ON r.member_id = m.referred_by OR r.member_id = m.member_id - 1;
