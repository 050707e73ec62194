-- Loads that were put on and taken off again to see that they go off: what a rig showed, as JSON.
CREATE TABLE rehearsal (
  id TEXT PRIMARY KEY,
  rig_id TEXT NOT NULL,
  rig_name TEXT NOT NULL,
  at TEXT NOT NULL,
  load_percent INTEGER NOT NULL,
  broken_off TEXT NOT NULL,
  steps TEXT NOT NULL
);
CREATE INDEX rehearsal_of_rig ON rehearsal (rig_id, at);

-- What went over the line of a run: loads as they were commanded and as they were reported, whenever either changed, and messages that
-- did not come in their order. Times are the run's clock and the wall's.
CREATE TABLE line_entry (
  run_id TEXT NOT NULL REFERENCES run (id) ON DELETE CASCADE,
  n INTEGER NOT NULL,
  t_ms INTEGER NOT NULL,
  at TEXT NOT NULL,
  kind TEXT NOT NULL,
  percent REAL,
  from_seq INTEGER,
  to_seq INTEGER,
  PRIMARY KEY (run_id, n)
) WITHOUT ROWID;
