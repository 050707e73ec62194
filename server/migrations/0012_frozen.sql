-- What the study said of a run's variant and its limits when the run was started, as JSON; NULL for runs of before.
ALTER TABLE run ADD COLUMN made_as TEXT;
-- No more runs are planned of it; what was measured stands.
ALTER TABLE variant ADD COLUMN retired INTEGER NOT NULL DEFAULT 0;
