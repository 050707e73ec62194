-- What a verdict is held against, retests, and windows that a tester chose.
ALTER TABLE study ADD COLUMN judging TEXT;      -- JSON JudgingBody; NULL: the usual
ALTER TABLE variant ADD COLUMN retest TEXT;     -- JSON RetestBody or NULL

-- A stretch of one phase that is read in place of its last minutes.
CREATE TABLE run_window (
  run_id   TEXT NOT NULL REFERENCES run(id) ON DELETE CASCADE,
  phase    INTEGER NOT NULL,
  start_ms INTEGER NOT NULL,
  end_ms   INTEGER NOT NULL,
  PRIMARY KEY (run_id, phase)
) STRICT;
