-- The river watch: volunteers who watch the rivers of an invented basin.

-- What the bank looks like at a station.
CREATE TABLE bank_kind (
  code  CHAR(1)     PRIMARY KEY,
  label VARCHAR(30) NOT NULL
);

-- A river names the river that it flows into; one that flows into the sea names none.
CREATE TABLE river (
  id         INTEGER       PRIMARY KEY,
  name       VARCHAR(40)   NOT NULL,
  flows_into INTEGER       REFERENCES river (id),
  length_km  INTEGER       NOT NULL,
  flow       DECIMAL(6, 1) NOT NULL
);

-- A warden names the warden who was the mentor; one of them had none.
CREATE TABLE warden (
  id          INTEGER     PRIMARY KEY,
  given_name  VARCHAR(40) NOT NULL,
  family_name VARCHAR(40) NOT NULL,
  mentor_id   INTEGER     REFERENCES warden (id)
);

-- A station stands at a river, once it is assigned to one, and may have a keeper.
CREATE TABLE station (
  id        INTEGER     PRIMARY KEY,
  name      VARCHAR(40) NOT NULL,
  river_id  INTEGER     REFERENCES river (id),
  keeper_id INTEGER     REFERENCES warden (id),
  bank      CHAR(1)     REFERENCES bank_kind (code),
  capacity  INTEGER     NOT NULL
);

CREATE TABLE reading (
  id          INTEGER   PRIMARY KEY,
  station_id  INTEGER   NOT NULL REFERENCES station (id),
  taken_at    TIMESTAMP NOT NULL,
  temperature DECIMAL(4, 1),
  depth_cm    INTEGER
);

-- A species group may belong to a wider one.
CREATE TABLE species_group (
  id        INTEGER     PRIMARY KEY,
  name      VARCHAR(40) NOT NULL,
  within_id INTEGER     REFERENCES species_group (id)
);

CREATE TABLE species (
  id       INTEGER     PRIMARY KEY,
  name     VARCHAR(40) NOT NULL,
  group_id INTEGER     NOT NULL REFERENCES species_group (id)
);

-- Which species was seen at which station on which day, and how many heads.
CREATE TABLE sighting (
  station_id INTEGER NOT NULL REFERENCES station (id),
  species_id INTEGER NOT NULL REFERENCES species (id),
  seen_on    DATE    NOT NULL,
  head_count INTEGER NOT NULL,
  PRIMARY KEY (station_id, species_id, seen_on)
);
