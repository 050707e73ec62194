-- Tries at exercises. What a seed drew is kept with the try; a study that stands here is kept apart from all others.
CREATE TABLE practice (
  study_id  TEXT PRIMARY KEY REFERENCES study (id) ON DELETE CASCADE,
  exercise  TEXT NOT NULL,
  seed      INTEGER NOT NULL,
  drawn     TEXT NOT NULL,  -- JSON: what is planted, and where
  sides     TEXT NOT NULL,  -- JSON: ids of the variants that are asked about
  begun_at  TEXT NOT NULL,
  hints     INTEGER NOT NULL DEFAULT 0,
  handed_in TEXT            -- JSON: when, the answer, marks and truth; NULL until then
) STRICT;
