-- Whether it is known when a run began: a log that does not say stood as begun when it was put down, which its end was set to as well.
ALTER TABLE run ADD COLUMN start_known INTEGER NOT NULL DEFAULT 1;
UPDATE run SET start_known = 0 WHERE source = 'file' AND started_at = ended_at;
