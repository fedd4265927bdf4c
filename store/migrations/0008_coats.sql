-- Up Migration
-- Finishes of the library have feeds and coats.
ALTER TABLE finishes ADD COLUMN feeds jsonb NOT NULL DEFAULT '[]', ADD COLUMN coats jsonb NOT NULL DEFAULT '[]';
ALTER TABLE finishes ALTER COLUMN feeds DROP DEFAULT, ALTER COLUMN coats DROP DEFAULT;

-- Down Migration
ALTER TABLE finishes DROP COLUMN feeds, DROP COLUMN coats;
