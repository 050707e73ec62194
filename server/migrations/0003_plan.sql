-- Factors, what cannot be had together, and the plan of runs.
ALTER TABLE study ADD COLUMN factors TEXT NOT NULL DEFAULT '[]';     -- JSON FactorBody[]
ALTER TABLE study ADD COLUMN impossible TEXT NOT NULL DEFAULT '[]';  -- JSON ImpossibleBody[]
ALTER TABLE study ADD COLUMN plan TEXT NOT NULL DEFAULT
  '{"school":"balanced","order":[],"firstVariantId":null,"lastVariantId":null,"mountMin":15,"remountMin":15,"cureMin":0,"unattended":false,"startOn":"","fromMin":540,"toMin":1020,"lunchFromMin":720,"lunchMin":45,"weekdays":[1,2,3,4,5]}'; -- JSON PlanBody

ALTER TABLE variant ADD COLUMN levels TEXT NOT NULL DEFAULT '[]';    -- JSON LevelChoiceBody[]
ALTER TABLE variant ADD COLUMN repeats INTEGER NOT NULL DEFAULT 2;
