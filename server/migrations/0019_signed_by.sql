-- Initials of whoever signed a run off; empty where nobody said.
ALTER TABLE run ADD COLUMN disposition_by TEXT NOT NULL DEFAULT '';
