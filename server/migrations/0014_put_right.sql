-- What a channel's numbers turned out to be, where they were taken for something else; the samples stay as they were stored.
ALTER TABLE run_channel ADD COLUMN read_as TEXT NOT NULL DEFAULT 'as-is';
