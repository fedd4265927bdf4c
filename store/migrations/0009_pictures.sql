-- Up Migration
-- Finishes are fed from uploaded pictures; those of the library keep theirs.
ALTER TABLE assets DROP CONSTRAINT assets_kind_check;
ALTER TABLE assets ADD CONSTRAINT assets_kind_check
  CHECK (kind IN ('font', 'surround', 'drawing', 'picture', 'proof', 'film', 'press'));
ALTER TABLE finishes ADD COLUMN pictures text[] NOT NULL DEFAULT '{}';
ALTER TABLE finishes ALTER COLUMN pictures DROP DEFAULT;
CREATE INDEX finishes_pictures ON finishes USING gin (pictures);

-- Down Migration
DROP INDEX finishes_pictures;
ALTER TABLE finishes DROP COLUMN pictures;
DELETE FROM assets WHERE kind = 'picture';
ALTER TABLE assets DROP CONSTRAINT assets_kind_check;
ALTER TABLE assets ADD CONSTRAINT assets_kind_check
  CHECK (kind IN ('font', 'surround', 'drawing', 'proof', 'film', 'press'));
