-- What is drawn of whole runs that have ended, one row a channel. May be thrown away: samples give it back.
CREATE TABLE overview (
  run_id  TEXT NOT NULL REFERENCES run(id) ON DELETE CASCADE,
  key     TEXT NOT NULL,
  made_of TEXT NOT NULL,                                   -- how many samples, as what they are read, to how many points
  t       BLOB NOT NULL,                                   -- float64 seconds, little-endian
  y       BLOB NOT NULL,                                   -- float64; NaN where a gap begins
  PRIMARY KEY (run_id, key)
) STRICT;
