-- Logs by what they hold: the same readings are known again, however they are written and called.
ALTER TABLE run ADD COLUMN content TEXT; -- of a run made of a file; NULL else, and for files that were read before
CREATE INDEX run_by_content ON run (content) WHERE content IS NOT NULL;
