-- Runs of which there is no trace: what a table of figures says of them, as JSON; NULL for a run that was recorded.
ALTER TABLE run ADD COLUMN figures TEXT;
