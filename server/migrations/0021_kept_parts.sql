-- Parts that are written down on the bench itself, whether a study puts them on or not.
CREATE TABLE kept_part (
  id         TEXT PRIMARY KEY,
  body       TEXT NOT NULL,                                -- JSON KeptPartBody
  version    INTEGER NOT NULL,
  updated_at TEXT NOT NULL
) STRICT;

-- As displayed, like those of mounts.
CREATE TABLE part_photo (
  id        TEXT PRIMARY KEY,
  part_id   TEXT NOT NULL REFERENCES kept_part(id) ON DELETE CASCADE,
  made_at   TEXT NOT NULL,
  name      TEXT NOT NULL,
  width_px  INTEGER NOT NULL,
  height_px INTEGER NOT NULL,
  image     BLOB NOT NULL
) STRICT;
CREATE INDEX part_photo_by_part ON part_photo(part_id, made_at);
