-- What a channel was called in the log that brought it; empty where it came over a rig's line.
ALTER TABLE run_channel ADD COLUMN head TEXT NOT NULL DEFAULT '';
