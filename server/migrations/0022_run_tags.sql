-- Words that a run is found by among others, commas between them.
ALTER TABLE run ADD COLUMN tags TEXT NOT NULL DEFAULT '';
