-- Interventions, hand readings, pre-flight lists and planted faults.
ALTER TABLE run ADD COLUMN faults TEXT NOT NULL DEFAULT '[]';            -- JSON string[], planted in the simulated bench
ALTER TABLE run ADD COLUMN on_vanish TEXT NOT NULL DEFAULT 'cut-out';    -- what happens when the part no longer answers
ALTER TABLE run ADD COLUMN preflight TEXT;                               -- JSON PreflightRecord or NULL

-- Typed by somebody while a run went on. One that was wrong is taken back, never changed.
CREATE TABLE hand_reading (
  id         TEXT PRIMARY KEY,
  run_id     TEXT NOT NULL REFERENCES run(id) ON DELETE CASCADE,
  spot_id    TEXT NOT NULL REFERENCES spot(id),
  at_ms      INTEGER NOT NULL,
  at         TEXT NOT NULL,
  value_c    REAL NOT NULL,
  typed      TEXT NOT NULL,
  removed_at TEXT
) STRICT;
CREATE INDEX hand_reading_by_run ON hand_reading(run_id, at_ms);
