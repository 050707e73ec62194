-- Initials of whoever changed a record, and of whoever mounted; empty where nobody said.
ALTER TABLE history ADD COLUMN made_by TEXT NOT NULL DEFAULT '';
ALTER TABLE mount ADD COLUMN made_by TEXT NOT NULL DEFAULT '';
