-- Figures that a study names itself, as JSON OwnFigureBody[], and what they came to in its runs; of the run as a whole where load is empty.
ALTER TABLE study ADD COLUMN figures TEXT NOT NULL DEFAULT '[]';
CREATE TABLE own_value (
  run_id TEXT NOT NULL REFERENCES run (id) ON DELETE CASCADE,
  figure_id TEXT NOT NULL,
  load TEXT NOT NULL,
  value REAL NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (run_id, figure_id, load)
) WITHOUT ROWID;
