-- Whether a rig made its readings up: the scatter of a simulated bench says nothing of a real one. Runs from before this was kept are known by the names of
-- the benches that ship, and by having run faster than the clock.
ALTER TABLE run ADD COLUMN simulated INTEGER NOT NULL DEFAULT 0;
UPDATE run SET simulated = 1 WHERE source = 'rig' AND (source_name IN ('bench-1', 'bench-2', 'bench-3') OR time_scale <> 1);
