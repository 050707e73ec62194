-- What is put on and how, mount cards, photographs of mounts, checks of the seat.
ALTER TABLE study ADD COLUMN parts TEXT NOT NULL DEFAULT '[]';       -- JSON FittedPartBody[]
ALTER TABLE study ADD COLUMN steps TEXT NOT NULL DEFAULT '[]';       -- JSON MountStepBody[]

ALTER TABLE mount ADD COLUMN from_variant_id TEXT;
ALTER TABLE mount ADD COLUMN hands_min REAL;
ALTER TABLE mount ADD COLUMN changed TEXT NOT NULL DEFAULT '[]';     -- JSON string[], factors that differed at that time
ALTER TABLE mount ADD COLUMN done TEXT NOT NULL DEFAULT '[]';        -- JSON string[], steps in words, as they were then
ALTER TABLE mount ADD COLUMN skipped TEXT NOT NULL DEFAULT '[]';     -- JSON string[], likewise
ALTER TABLE mount ADD COLUMN serial TEXT NOT NULL DEFAULT '';

-- As displayed: resized, without the notes that cameras leave in a file.
CREATE TABLE mount_photo (
  id        TEXT PRIMARY KEY,
  mount_id  TEXT NOT NULL REFERENCES mount(id) ON DELETE CASCADE,
  made_at   TEXT NOT NULL,
  name      TEXT NOT NULL,
  width_px  INTEGER NOT NULL,
  height_px INTEGER NOT NULL,
  image     BLOB NOT NULL
) STRICT;
CREATE INDEX mount_photo_by_mount ON mount_photo(mount_id, made_at);

ALTER TABLE run ADD COLUMN purpose TEXT NOT NULL DEFAULT 'measure';
