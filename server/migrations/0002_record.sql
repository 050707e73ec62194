-- The record of a bench: several parts, claims and predictions a study; locks instead of settings; limits, instruments,
-- calibrations and camera surveys.
ALTER TABLE study ADD COLUMN claims TEXT NOT NULL DEFAULT '[]';          -- JSON ClaimBody[]
ALTER TABLE study ADD COLUMN predictions TEXT NOT NULL DEFAULT '[]';     -- JSON PredictionBody[]
ALTER TABLE study ADD COLUMN prediction_stamps TEXT NOT NULL DEFAULT '{}'; -- JSON {id: when it was last written}
ALTER TABLE study ADD COLUMN subjects TEXT NOT NULL DEFAULT '[]';        -- JSON SubjectBody[]
ALTER TABLE study ADD COLUMN locks TEXT NOT NULL DEFAULT '[]';           -- JSON LockBody[]
ALTER TABLE study ADD COLUMN room_channel_id TEXT;

UPDATE study SET
  claims = CASE WHEN claim IS NULL THEN '[]' ELSE json_array(json_object(
    'id', 'claim-1', 'text', claim ->> '$.text', 'outcome', 'temperature', 'spotId', claim ->> '$.spotId',
    'direction', claim ->> '$.direction', 'leastEffect', claim -> '$.leastEffectK')) END,
  predictions = CASE WHEN prediction IS NULL THEN '[]' ELSE json_array(json_set(json(prediction), '$.id', 'prediction-1')) END,
  prediction_stamps = CASE WHEN prediction IS NULL THEN '{}' ELSE json_object('prediction-1', created_at) END,
  subjects = json_array(json_set(json(subject), '$.id', 'part-1', '$.drive', NULL, '$.map', NULL)),
  locks = (SELECT coalesce(json_group_array(json_object('name', s.value ->> '$.name', 'value', s.value ->> '$.value',
    'unit', '', 'tolerance', NULL, 'channel', '', 'overrides', json_array())), '[]') FROM json_each(study.settings) s),
  rules = json_set(rules, '$.load', 'worst-case', '$.duration', 'until-settled', '$.place', 'open-bench', '$.sensorOfRecord', 'attached',
    '$.stress', 'as-used', '$.ladder', 'one-change', '$.paste', 'spread');

ALTER TABLE study DROP COLUMN claim;
ALTER TABLE study DROP COLUMN prediction;
ALTER TABLE study DROP COLUMN subject;
ALTER TABLE study DROP COLUMN settings;

ALTER TABLE spot ADD COLUMN advisory_c REAL;
ALTER TABLE spot ADD COLUMN advisory_source TEXT NOT NULL DEFAULT '';
ALTER TABLE spot ADD COLUMN throttle_source TEXT NOT NULL DEFAULT '';
ALTER TABLE spot ADD COLUMN method TEXT NOT NULL DEFAULT 'attached';
ALTER TABLE spot ADD COLUMN by_hand INTEGER NOT NULL DEFAULT 0;
ALTER TABLE spot ADD COLUMN instrument_channel_id TEXT;
ALTER TABLE spot ADD COLUMN placement_k REAL NOT NULL DEFAULT 0.5;
ALTER TABLE spot ADD COLUMN twin_of TEXT;
ALTER TABLE spot ADD COLUMN beneath TEXT;                                -- JSON BeneathBody or NULL
UPDATE spot SET throttle_source = limit_source WHERE throttle_c IS NOT NULL;
UPDATE spot SET method = 'own' WHERE component_class = 'drive sensor';
UPDATE spot SET component_class = 'graphics core' WHERE component_class = 'core';

ALTER TABLE variant ADD COLUMN subject_id TEXT NOT NULL DEFAULT 'part-1';

ALTER TABLE run ADD COLUMN confirmed_locks TEXT NOT NULL DEFAULT '[]';   -- JSON string[], names confirmed by hand
ALTER TABLE run_channel ADD COLUMN instrument_channel_id TEXT;

-- Results that a change moved, beside what the record said before.
ALTER TABLE history ADD COLUMN changed TEXT NOT NULL DEFAULT '[]';       -- JSON string[]
ALTER TABLE history ADD COLUMN moved TEXT NOT NULL DEFAULT '[]';         -- JSON MovedResult[]

-- Only what differs from the library as it ships.
CREATE TABLE component_limit (
  component_class TEXT PRIMARY KEY,
  body            TEXT NOT NULL,   -- JSON LimitBody
  version         INTEGER NOT NULL,
  updated_at      TEXT NOT NULL
) STRICT;

CREATE TABLE instrument (
  id         TEXT PRIMARY KEY,
  body       TEXT NOT NULL,        -- JSON InstrumentBody
  version    INTEGER NOT NULL,
  updated_at TEXT NOT NULL,
  deleted_at TEXT
) STRICT;

-- Never changed: a new one replaces it from its date on.
CREATE TABLE calibration (
  id                   TEXT PRIMARY KEY,
  instrument_id        TEXT NOT NULL REFERENCES instrument(id) ON DELETE CASCADE,
  channel_id           TEXT NOT NULL,
  made_on              TEXT NOT NULL,
  due_on               TEXT NOT NULL,
  reference_accuracy_k REAL NOT NULL,
  points               TEXT NOT NULL, -- JSON CalibrationPointBody[]
  note                 TEXT NOT NULL,
  created_at           TEXT NOT NULL
) STRICT;
CREATE INDEX calibration_by_channel ON calibration(channel_id, made_on);

-- Corrections lie beside the raw samples of a run, which stay as they were read.
CREATE TABLE run_correction (
  run_id         TEXT NOT NULL REFERENCES run(id) ON DELETE CASCADE,
  key            TEXT NOT NULL,
  calibration_id TEXT NOT NULL REFERENCES calibration(id) ON DELETE CASCADE,
  applied_at     TEXT NOT NULL,
  PRIMARY KEY (run_id, key)
) STRICT;

-- Camera pictures: row by row, little-endian float32 in °C as indicated, NaN where there is no value. Never altered.
CREATE TABLE survey (
  id         TEXT PRIMARY KEY,
  study_id   TEXT NOT NULL REFERENCES study(id) ON DELETE CASCADE,
  body       TEXT NOT NULL,        -- JSON SurveyBody
  row_count  INTEGER NOT NULL,
  columns    INTEGER NOT NULL,
  matrix     BLOB NOT NULL,
  version    INTEGER NOT NULL,
  created_at TEXT NOT NULL,
  deleted_at TEXT
) STRICT;
CREATE INDEX survey_by_study ON survey(study_id, created_at);
