-- A study and what it is made of. Small value objects that are always read whole are JSON; what runs refer to has a table.
CREATE TABLE study (
  id          TEXT PRIMARY KEY,
  title       TEXT NOT NULL,
  family      TEXT NOT NULL,
  question    TEXT NOT NULL,
  claim       TEXT,            -- JSON ClaimBody or NULL
  prediction  TEXT,            -- JSON PredictionBody or NULL
  rules       TEXT NOT NULL,   -- JSON HouseRulesBody
  enclosure   TEXT NOT NULL,   -- JSON EnclosureBody
  subject     TEXT NOT NULL,   -- JSON SubjectBody
  recipe      TEXT NOT NULL,   -- JSON RecipePhaseBody[]
  settings    TEXT NOT NULL,   -- JSON SettingBody[]
  version     INTEGER NOT NULL,
  created_at  TEXT NOT NULL,
  updated_at  TEXT NOT NULL,
  deleted_at  TEXT
) STRICT;

CREATE TABLE spot (
  id              TEXT PRIMARY KEY,
  study_id        TEXT NOT NULL REFERENCES study(id) ON DELETE CASCADE,
  ordinal         INTEGER NOT NULL,
  name            TEXT NOT NULL,
  place           TEXT NOT NULL,
  component_class TEXT NOT NULL,
  limit_c         REAL NOT NULL,
  limit_source    TEXT NOT NULL,
  cut_out_c       REAL NOT NULL,
  cut_out_hold_s  REAL NOT NULL,
  throttle_c      REAL,
  channel         TEXT NOT NULL,
  sensor          TEXT NOT NULL,
  accuracy_k      REAL NOT NULL,
  resolution_k    REAL NOT NULL
) STRICT;
CREATE INDEX spot_by_study ON spot(study_id, ordinal);

CREATE TABLE variant (
  id           TEXT PRIMARY KEY,
  study_id     TEXT NOT NULL REFERENCES study(id) ON DELETE CASCADE,
  ordinal      INTEGER NOT NULL,
  name         TEXT NOT NULL,
  is_reference INTEGER NOT NULL,
  setup        TEXT NOT NULL,
  notes        TEXT NOT NULL
) STRICT;
CREATE INDEX variant_by_study ON variant(study_id, ordinal);

CREATE TABLE mount (
  id         TEXT PRIMARY KEY,
  study_id   TEXT NOT NULL REFERENCES study(id) ON DELETE CASCADE,
  variant_id TEXT NOT NULL REFERENCES variant(id),
  number     INTEGER NOT NULL,
  made_at    TEXT NOT NULL,
  confirmed  TEXT NOT NULL,    -- JSON string[]
  note       TEXT NOT NULL,
  seed       INTEGER NOT NULL, -- fit of pads and probes on the simulated bench
  UNIQUE (variant_id, number)
) STRICT;

CREATE TABLE run (
  id                 TEXT PRIMARY KEY,
  study_id           TEXT NOT NULL REFERENCES study(id) ON DELETE CASCADE,
  variant_id         TEXT NOT NULL REFERENCES variant(id),
  mount_id           TEXT REFERENCES mount(id),
  number             INTEGER NOT NULL,
  source             TEXT NOT NULL,
  source_name        TEXT NOT NULL,
  state              TEXT NOT NULL,
  started_at         TEXT NOT NULL,
  ended_at           TEXT,
  length_ms          INTEGER NOT NULL,
  time_scale         REAL NOT NULL,
  disposition        TEXT NOT NULL,
  disposition_reason TEXT NOT NULL,
  end_reason         TEXT NOT NULL,
  settings           TEXT NOT NULL, -- JSON, what was held when it started
  recipe             TEXT NOT NULL, -- JSON, the recipe it runs by
  armed              TEXT NOT NULL, -- JSON ArmedLimit[]
  seed               INTEGER NOT NULL,
  last_seq           INTEGER NOT NULL,
  UNIQUE (study_id, number)
) STRICT;
CREATE INDEX run_by_state ON run(state);

CREATE TABLE run_channel (
  run_id  TEXT NOT NULL REFERENCES run(id) ON DELETE CASCADE,
  ordinal INTEGER NOT NULL,
  key     TEXT NOT NULL,
  role    TEXT NOT NULL,
  spot_id TEXT REFERENCES spot(id),
  unit    TEXT NOT NULL,
  sensor  TEXT NOT NULL,
  PRIMARY KEY (run_id, key)
) STRICT;

CREATE TABLE run_phase (
  run_id   TEXT NOT NULL REFERENCES run(id) ON DELETE CASCADE,
  ordinal  INTEGER NOT NULL,
  kind     TEXT NOT NULL,
  name     TEXT NOT NULL,
  start_ms INTEGER NOT NULL,
  end_ms   INTEGER,
  ended_by TEXT,
  PRIMARY KEY (run_id, ordinal)
) STRICT;

CREATE TABLE run_event (
  id     TEXT PRIMARY KEY,
  run_id TEXT NOT NULL REFERENCES run(id) ON DELETE CASCADE,
  at_ms  INTEGER NOT NULL,
  at     TEXT NOT NULL,
  kind   TEXT NOT NULL,
  text   TEXT NOT NULL
) STRICT;
CREATE INDEX run_event_by_run ON run_event(run_id, at_ms);

-- Raw samples, never altered. Little-endian: t as int32 milliseconds of the run's clock, v as float64, NaN where missing.
CREATE TABLE sample_chunk (
  run_id   TEXT NOT NULL REFERENCES run(id) ON DELETE CASCADE,
  key      TEXT NOT NULL,
  start_ms INTEGER NOT NULL,
  end_ms   INTEGER NOT NULL,
  n        INTEGER NOT NULL,
  t        BLOB NOT NULL,
  v        BLOB NOT NULL,
  PRIMARY KEY (run_id, key, start_ms)
) STRICT;

-- Readings derived from samples; may be thrown away at any time.
CREATE TABLE review_cache (
  run_id         TEXT PRIMARY KEY REFERENCES run(id) ON DELETE CASCADE,
  method_version TEXT NOT NULL,
  inputs         TEXT NOT NULL,
  body           TEXT NOT NULL
) STRICT;

-- What a record said before it was changed.
CREATE TABLE history (
  id        TEXT PRIMARY KEY,
  entity    TEXT NOT NULL,
  entity_id TEXT NOT NULL,
  at        TEXT NOT NULL,
  before    TEXT NOT NULL
) STRICT;
CREATE INDEX history_by_entity ON history(entity, entity_id, at);
