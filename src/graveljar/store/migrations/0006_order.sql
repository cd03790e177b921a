-- Designs put away, and words to find them by.

ALTER TABLE design ADD COLUMN archived_at timestamptz;
ALTER TABLE design ADD COLUMN tags text[] NOT NULL DEFAULT '{}' CHECK (cardinality(tags) <= 8);
