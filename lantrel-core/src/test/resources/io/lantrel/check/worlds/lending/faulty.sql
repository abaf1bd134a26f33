-- Faulty queries of the lending library; the place that is told stands between « and ».

-- accidental-outer-column
SELECT b.title FROM book b WHERE b.isbn IN (SELECT «isbn» FROM loan WHERE returned_at IS NULL);

-- always-true
SELECT b.title FROM book b WHERE b.price > (SELECT AVG(x.price) FROM book x WHERE «b.publisher_id = b.publisher_id»);
-- always-true
SELECT c.name FROM clerk c WHERE «c.clerk_id <> ANY (SELECT l.clerk_id FROM loan l)»;
-- always-true
SELECT c.branch_id, c.copy_no FROM copy c WHERE c.cost = (SELECT MAX(x.cost) FROM copy x WHERE «x.branch_id = x.branch_id»);
-- always-true
SELECT m.last_name, (SELECT COUNT(*) FROM loan m WHERE «m.member_id = m.member_id») AS n FROM member m;

-- condition-misses-table
SELECT m.last_name, b.title FROM member m JOIN hold h ON h.member_id = m.member_id JOIN book b ON «h.branch_id = m.home_branch_id»;

-- count-of-missing
SELECT b.title, «COUNT(*)» AS copies FROM book b LEFT JOIN copy c ON c.isbn = b.isbn GROUP BY b.isbn, b.title;
-- count-ignores-condition
SELECT b.branch_name, «COUNT(CASE WHEN l.returned_at IS NULL THEN 1 ELSE 0 END)» AS open FROM branch b LEFT JOIN loan l ON l.branch_id = b.branch_id GROUP BY b.branch_id, b.branch_name;
-- count-of-missing
SELECT m.last_name FROM member m LEFT JOIN loan l ON l.member_id = m.member_id GROUP BY m.member_id, m.last_name HAVING «COUNT(*)» = 0;
-- count-of-missing
SELECT p.name, «COUNT(*)» AS books FROM publisher p LEFT JOIN book b ON b.publisher_id = p.publisher_id GROUP BY ROLLUP (p.name);

-- cross-product
SELECT m.last_name, b.title FROM member m, hold h«,» book b WHERE m.member_id = h.member_id;
-- cross-product
SELECT m.last_name, p.name FROM publisher p«,» member m LEFT JOIN loan l ON l.member_id = m.member_id;

-- crossed-branches
SELECT b.title, a.last_name, c.copy_no FROM book b JOIN book_author ba ON ba.isbn = b.isbn JOIN author a ON a.author_id = ba.author_id «JOIN» copy c ON c.isbn = b.isbn;
-- crossed-branches
SELECT l.member_id FROM loan l JOIN fine f ON f.loan_id = l.loan_id «JOIN» hold h ON h.member_id = l.member_id GROUP BY l.member_id HAVING COUNT(*) > 3;

-- endless-recursion
WITH RECURSIVE t AS (SELECT clerk_id, name FROM clerk WHERE manager_id IS NULL UNION ALL «SELECT c.clerk_id, c.name FROM clerk c JOIN t ON c.branch_id = c.branch_id») SELECT * FROM t;

-- filter-on-kept-side
SELECT b.branch_name FROM branch b LEFT JOIN copy c ON c.branch_id = b.branch_id AND «b.city = 'Pell'»;
-- filter-on-kept-side
SELECT q.title, q.n FROM (SELECT b.title, COUNT(c.copy_no) AS n FROM book b LEFT JOIN copy c ON c.isbn = b.isbn AND «b.price > 10» GROUP BY b.isbn, b.title) q WHERE q.n >= 0;

-- grouped-by-name
SELECT a.last_name, a.first_name, COUNT(*) AS books FROM author a JOIN book_author ba ON ba.author_id = a.author_id GROUP BY «a.last_name, a.first_name»;

-- hierarchy-cut-short
WITH RECURSIVE t AS (SELECT clerk_id, 1 AS d FROM clerk WHERE manager_id IS NULL UNION ALL SELECT c.clerk_id, t.d + 1 FROM clerk c JOIN t ON c.manager_id = t.clerk_id WHERE «t.d < 2») SELECT * FROM t;

-- loose-or
SELECT l.loan_id FROM loan l WHERE EXISTS (SELECT 1 FROM copy c WHERE «c.branch_id = l.branch_id OR c.copy_no = l.copy_no»);
-- loose-or
SELECT l.loan_id, m.last_name FROM loan l JOIN member m ON «m.member_id = l.member_id OR m.home_branch_id = l.branch_id»;
-- loose-or
SELECT l.loan_id, c.state FROM loan l JOIN copy c ON «l.branch_id = c.branch_id OR l.copy_no = c.copy_no»;
-- loose-or
SELECT l.loan_id, c.state FROM loan l LEFT JOIN copy c ON «(c.branch_id = l.branch_id OR c.copy_no = l.copy_no)» WHERE l.returned_at IS NULL;
-- loose-or
SELECT l.loan_id, m.last_name FROM loan l, member m WHERE «(m.member_id = l.member_id OR m.home_branch_id = l.branch_id)» AND l.clerk_id = 2;

-- mirrored-pairs
SELECT x.isbn, a.last_name, b.last_name AS other FROM book_author x JOIN book_author y ON y.isbn = x.isbn AND «y.author_id <> x.author_id» JOIN author a ON a.author_id = x.author_id JOIN author b ON b.author_id = y.author_id;
-- mirrored-pairs
SELECT k.title, a.last_name, b.last_name AS other FROM book k JOIN book_author x ON x.isbn = k.isbn JOIN book_author y ON y.isbn = x.isbn AND «y.author_id <> x.author_id» JOIN author a ON a.author_id = x.author_id JOIN author b ON b.author_id = y.author_id;
-- mirrored-pairs
SELECT x.isbn, a.last_name, b.last_name AS other FROM book_author x JOIN book_author y ON y.isbn = x.isbn AND «y.author_id <> x.author_id» JOIN author a ON a.author_id = x.author_id JOIN author b ON b.author_id = y.author_id WHERE x.isbn LIKE '97%';

-- natural-surprise
SELECT * FROM member «NATURAL JOIN» author;

-- never-a-row
WITH RECURSIVE t AS (SELECT branch_id, branch_name, parent_branch_id FROM branch WHERE branch_id = 1 UNION ALL SELECT b.branch_id, b.branch_name, b.parent_branch_id FROM branch b JOIN t ON «t.parent_branch_id = b.branch_id») SELECT * FROM t;
-- never-a-row
SELECT m.last_name FROM member m WHERE «CAST(m.joined AS VARCHAR) > '2021-5'»;

-- never-true
SELECT l.loan_id FROM loan l WHERE «l.loan_id BETWEEN 20 AND 10»;

-- not-a-reference
SELECT m.last_name, b.branch_name FROM member m JOIN branch b ON «b.branch_id = m.member_id»;
-- not-a-reference
SELECT m.last_name, q.n FROM member m JOIN (SELECT l.branch_id, COUNT(*) AS n FROM loan l GROUP BY l.branch_id) q ON «q.branch_id = m.member_id»;
-- not-a-reference
SELECT m.last_name FROM member m WHERE m.member_id IN (SELECT «l.loan_id» FROM loan l WHERE l.returned_at IS NULL);
-- not-a-reference
SELECT b.branch_name FROM branch b WHERE b.branch_id IN (SELECT «c.clerk_id» FROM clerk c WHERE c.hired > DATE '2016-06-01');

-- not-in-null
SELECT c.name FROM clerk c WHERE «c.clerk_id NOT IN (SELECT manager_id FROM clerk)»;
-- not-in-null
SELECT c.copy_no FROM copy c WHERE «c.state NOT IN ('ok', NULL)»;

-- null-comparison
SELECT l.loan_id FROM loan l WHERE «l.returned_at = NULL»;

-- null-swallows
SELECT «m.first_name || ' ' || m.last_name» AS who FROM member m;
-- null-swallows
SELECT COUNT(DISTINCT «m.first_name || m.last_name») AS people FROM member m;
-- null-swallows
SELECT b.branch_name, STRING_AGG(«m.first_name || ' ' || m.last_name», ', ') AS who FROM branch b JOIN member m ON m.home_branch_id = b.branch_id GROUP BY b.branch_id, b.branch_name;

-- outer-chain-broken
SELECT m.last_name, r.last_name AS by_whom, b.city FROM member m LEFT JOIN member r ON r.member_id = m.referred_by «JOIN» branch b ON b.branch_id = r.home_branch_id;
-- outer-chain-broken
SELECT m.last_name, l.lent_at, f.amount FROM member m LEFT JOIN loan l USING (member_id) «JOIN» fine f USING (loan_id);

-- outer-join-cancelled
SELECT m.last_name, l.loan_id FROM member m LEFT JOIN loan l ON l.member_id = m.member_id WHERE «l.returned_at IS NULL»;
-- outer-join-cancelled
SELECT m.last_name, COALESCE(b.branch_name, 'none') FROM member m LEFT JOIN branch b ON b.branch_id = m.home_branch_id WHERE «b.city <> 'Pell'»;
-- outer-join-cancelled
SELECT c.name, l.loan_id FROM loan l RIGHT JOIN clerk c ON c.clerk_id = l.clerk_id WHERE «l.lent_at > TIMESTAMP '2024-03-01 00:00:00'»;
-- outer-join-cancelled
SELECT m.last_name, q.n FROM member m LEFT JOIN (SELECT member_id, COUNT(*) AS n FROM loan GROUP BY member_id) q ON q.member_id = m.member_id WHERE «q.n < 5»;

-- partial-key
SELECT l.loan_id, c.state FROM loan l JOIN copy c ON «c.copy_no = l.copy_no»;
-- partial-key
SELECT b.title FROM book b WHERE NOT EXISTS (SELECT 1 FROM copy c JOIN loan l ON «l.copy_no = c.copy_no» WHERE c.isbn = b.isbn);
-- partial-key
SELECT l.loan_id, l.member_id FROM loan l JOIN (SELECT member_id, MAX(lent_at) AS last_at FROM loan GROUP BY member_id) x ON «x.last_at = l.lent_at»;
-- partial-key
SELECT c.copy_no FROM copy c WHERE c.copy_no IN (SELECT «l.copy_no» FROM loan l WHERE l.returned_at IS NULL);

-- partner-test-on-nullable
SELECT m.last_name FROM member m LEFT JOIN loan l ON l.member_id = m.member_id WHERE «l.clerk_id IS NULL»;

-- repeated-in-total
SELECT m.member_id, «SUM(f.amount)» AS fines, COUNT(h.hold_id) AS holds FROM member m LEFT JOIN loan l ON l.member_id = m.member_id LEFT JOIN fine f ON f.loan_id = l.loan_id LEFT JOIN hold h ON h.member_id = m.member_id GROUP BY m.member_id;
-- repeated-in-total
SELECT p.name, «SUM(b.price)» AS worth FROM publisher p JOIN book b ON b.publisher_id = p.publisher_id JOIN copy c ON c.isbn = b.isbn GROUP BY p.publisher_id, p.name;
-- repeated-in-total
SELECT a.last_name, «AVG(b.price)» FROM author a JOIN book_author ba ON ba.author_id = a.author_id JOIN book b ON b.isbn = ba.isbn JOIN copy c ON c.isbn = b.isbn GROUP BY a.author_id, a.last_name;
-- repeated-in-total
SELECT b.title, c.state, «SUM(b.price) OVER (PARTITION BY b.publisher_id)» AS worth FROM book b JOIN copy c ON c.isbn = b.isbn;

-- reversed-self-join
SELECT b.title AS book, s.title AS sequel FROM book b JOIN book s ON «b.sequel_of = s.isbn»;
-- reversed-self-join
SELECT m.last_name, r.last_name AS referred_by FROM member m JOIN member r ON «r.referred_by = m.member_id»;
-- reversed-self-join
SELECT m.last_name, COUNT(r.member_id) AS referred FROM member m LEFT JOIN member r ON «m.referred_by = r.member_id» GROUP BY m.member_id, m.last_name;

-- rows-without-partner
SELECT h.hold_id, b.branch_name FROM hold h JOIN member m ON m.member_id = h.member_id «JOIN» branch b ON b.branch_id = m.home_branch_id;
-- rows-without-partner
SELECT c.name, m.name AS boss, g.name AS boss_of_boss FROM clerk c «JOIN» clerk m ON m.clerk_id = c.manager_id JOIN clerk g ON g.clerk_id = m.manager_id;
-- rows-without-partner
SELECT c.name, b.branch_name AS manager_branch FROM clerk c «JOIN» clerk m ON m.clerk_id = c.manager_id JOIN branch b ON b.branch_id = c.branch_id;

-- self-match
SELECT x.author_id, y.author_id FROM book_author x JOIN book_author y ON «y.isbn = x.isbn»;
-- self-match
SELECT c.name, b.branch_name, p.branch_name AS parent FROM clerk c JOIN branch b ON b.branch_id = c.branch_id JOIN branch p ON «p.branch_id = b.branch_id»;
-- self-match
SELECT c.name, m.name AS manager FROM clerk c JOIN clerk m ON «m.branch_id = c.branch_id»;
-- self-match
SELECT k.title, a.last_name, b.last_name AS other FROM book k JOIN book_author x ON x.isbn = k.isbn JOIN book_author y ON «y.isbn = x.isbn» JOIN author a ON a.author_id = x.author_id JOIN author b ON b.author_id = y.author_id;

-- subquery-many-rows
SELECT b.title, «(SELECT a.last_name FROM author a JOIN book_author ba ON ba.author_id = a.author_id WHERE ba.isbn = b.isbn)» AS author FROM book b;

-- swapped-columns
SELECT last_name, first_name FROM author UNION SELECT «first_name», last_name FROM member;
-- swapped-columns
SELECT m.last_name, m.first_name FROM member m EXCEPT SELECT «a.first_name», a.last_name FROM author a;

-- type-mismatch
SELECT COUNT(*) FROM loan l WHERE «l.lent_at BETWEEN DATE '2024-03-01' AND DATE '2024-03-12'»;
-- type-mismatch
SELECT b.isbn FROM book b WHERE «b.isbn > 978»;
-- type-mismatch
SELECT b.title FROM book b WHERE «b.isbn = 9780000000001»;
-- type-mismatch
SELECT b.title FROM book b WHERE «b.isbn IN (9780000000001, 9780000000002)»;

-- uncorrelated-exists
SELECT b.title FROM book b WHERE «EXISTS (SELECT 1 FROM hold h JOIN member m ON m.member_id = h.member_id WHERE m.home_branch_id = 2)»;

-- ungrouped-column
SELECT m.last_name, MAX(l.lent_at), «l.copy_no» FROM member m JOIN loan l ON l.member_id = m.member_id GROUP BY m.member_id, m.last_name;

-- unknown-column
SELECT m.last_name FROM member m ORDER BY «2»;

-- unordered-limit
SELECT m.last_name, x.lent_at FROM member m CROSS JOIN LATERAL (SELECT l.lent_at FROM loan l WHERE l.member_id = m.member_id «LIMIT 1») x;
-- unordered-limit
SELECT DISTINCT ON («l.member_id») l.member_id, l.lent_at FROM loan l ORDER BY l.lent_at DESC;
-- unordered-limit
SELECT q.title, c.copy_no FROM (SELECT isbn, title FROM book «LIMIT 5») q JOIN copy c ON c.isbn = q.isbn;
-- unordered-limit
SELECT * FROM (SELECT title FROM book ORDER BY price) q «LIMIT 3»;

-- unstable-order
SELECT m.member_id, «NTILE(4) OVER ()» AS q FROM member m;
-- unstable-order
SELECT l.loan_id, «LEAD(l.lent_at) OVER (PARTITION BY l.member_id)» AS nxt FROM loan l;

-- wildcard-outside-like
SELECT m.last_name FROM member m WHERE «m.email = '%@x.test'»;

-- never-a-partner
SELECT m.last_name, h.hold_id FROM member m FULL JOIN hold h ON «h.member_id = m.member_id + 1000»;
-- filter-on-kept-side
SELECT m.last_name, h.hold_id FROM member m FULL JOIN hold h ON h.member_id = m.member_id AND «h.hold_id > 1000»;
