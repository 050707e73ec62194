-- What was normal of a part and its set-up, as the bench came to know it: no version is changed, a later one stands beside it. It outlives
-- the study whose runs it rests on, which is why it refers to nothing.
CREATE TABLE signature (
  set_up      TEXT NOT NULL,                               -- what was measured and on what, in plain words (`setUpOf`), and by whom recorded
  version     INTEGER NOT NULL,
  made_at     TEXT NOT NULL,
  measured_at TEXT NOT NULL,                               -- when the last run began that it rests on
  study_id    TEXT NOT NULL,
  study_title TEXT NOT NULL,
  rests_on    TEXT NOT NULL,                               -- hash of the runs and of all that is read of them
  body        TEXT NOT NULL,                               -- JSON KnownNormal
  PRIMARY KEY (set_up, version)
) STRICT;
CREATE INDEX signature_by_study ON signature(study_id, set_up, version);
