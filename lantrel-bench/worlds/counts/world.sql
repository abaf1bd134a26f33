CREATE TABLE day (id INTEGER PRIMARY KEY, name VARCHAR NOT NULL, month INTEGER NOT NULL);
INSERT INTO day SELECT i, 'day ' || i, i % 12 + 1 FROM range(1, 1001) t(i);
CREATE TABLE species (id INTEGER PRIMARY KEY, name VARCHAR NOT NULL, within_id INTEGER REFERENCES species (id));
INSERT INTO species SELECT i, 'species ' || i, NULL FROM range(1, 21) t(i);
INSERT INTO species SELECT i, 'species ' || i, i // 20 FROM range(21, 401) t(i);
INSERT INTO species SELECT i, 'species ' || i, i // 20 FROM range(401, 2001) t(i);
CREATE TABLE warden (id INTEGER PRIMARY KEY, name VARCHAR NOT NULL, trained BOOLEAN NOT NULL);
INSERT INTO warden SELECT i, 'warden ' || i, i % 3 = 0 FROM range(1, 50001) t(i);
CREATE TABLE place (id INTEGER PRIMARY KEY, name VARCHAR NOT NULL, river VARCHAR NOT NULL, warden_id INTEGER REFERENCES warden (id));
INSERT INTO place SELECT i, 'place ' || i, 'river ' || i % 40, CASE WHEN i % 10 > 0 THEN i * 7 % 50000 + 1 END FROM range(1, 501) t(i);
CREATE TABLE method (code VARCHAR PRIMARY KEY, name VARCHAR NOT NULL);
INSERT INTO method VALUES ('N', 'net'), ('T', 'trap'), ('E', 'eye'), ('S', 'sound');
CREATE TABLE weather (id INTEGER PRIMARY KEY, name VARCHAR NOT NULL);
INSERT INTO weather SELECT i, 'weather ' || i FROM range(1, 101) t(i);
CREATE TABLE heads (id INTEGER NOT NULL, day_id INTEGER NOT NULL, species_id INTEGER NOT NULL, place_id INTEGER NOT NULL,
  warden_id INTEGER, method VARCHAR NOT NULL, weather_id INTEGER, count INTEGER NOT NULL, length_cm DECIMAL(8, 1),
  FOREIGN KEY (day_id) REFERENCES day (id), FOREIGN KEY (species_id) REFERENCES species (id),
  FOREIGN KEY (place_id) REFERENCES place (id), FOREIGN KEY (warden_id) REFERENCES warden (id),
  FOREIGN KEY (method) REFERENCES method (code), FOREIGN KEY (weather_id) REFERENCES weather (id));
INSERT INTO heads SELECT i, hash(i) % 1000 + 1, hash(i * 3) % 2000 + 1, hash(i * 5) % 480 + 1,
  CASE WHEN i % 50 > 0 THEN hash(i * 7) % 50000 + 1 END, substr('NTES', CAST(hash(i * 11) % 4 + 1 AS INTEGER), 1),
  CASE WHEN i % 4 > 0 THEN hash(i * 13) % 90 + 1 END, hash(i * 17) % 9, hash(i * 19) % 900 / 10.0 FROM range(1, $1 + 1) t(i);
CREATE TABLE mark (id INTEGER NOT NULL, place_id INTEGER NOT NULL REFERENCES place (id), kind VARCHAR NOT NULL);
INSERT INTO mark SELECT i, hash(i) % 450 + 1, 'kind ' || i % 5 FROM range(1, 1201) t(i);
