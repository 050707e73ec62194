-- How a source's logs were mapped last time, by the names of their columns.
CREATE TABLE import_mapping (
  signature TEXT PRIMARY KEY,
  body      TEXT NOT NULL, -- JSON SavedMapping, spots by their names
  used_at   TEXT NOT NULL
) STRICT;
