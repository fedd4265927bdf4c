-- Up Migration
-- Who made what; before there were names it was always the local artist.
ALTER TABLE revisions  ADD COLUMN actor text NOT NULL DEFAULT 'local';
ALTER TABLE proofs     ADD COLUMN actor text NOT NULL DEFAULT 'local';
ALTER TABLE press_jobs ADD COLUMN actor text NOT NULL DEFAULT 'local';
ALTER TABLE assets     ADD COLUMN actor text NOT NULL DEFAULT 'local';
ALTER TABLE finishes   ADD COLUMN actor text NOT NULL DEFAULT 'local';
ALTER TABLE revisions  ALTER COLUMN actor DROP DEFAULT;
ALTER TABLE proofs     ALTER COLUMN actor DROP DEFAULT;
ALTER TABLE press_jobs ALTER COLUMN actor DROP DEFAULT;
ALTER TABLE assets     ALTER COLUMN actor DROP DEFAULT;
ALTER TABLE finishes   ALTER COLUMN actor DROP DEFAULT;

-- A finish of the library passes the document's door in the version it was kept in.
ALTER TABLE finishes ADD COLUMN version integer NOT NULL DEFAULT 3;
ALTER TABLE finishes ALTER COLUMN version DROP DEFAULT;

-- A proof keeps the light itself beside the picture: a half-float EXR with its layers.
ALTER TABLE assets DROP CONSTRAINT assets_kind_check;
ALTER TABLE assets ADD CONSTRAINT assets_kind_check
  CHECK (kind IN ('font', 'surround', 'drawing', 'proof', 'film', 'press'));
ALTER TABLE proofs ADD COLUMN film text REFERENCES assets (hash);

-- Down Migration
ALTER TABLE proofs DROP COLUMN film;
DELETE FROM assets WHERE kind = 'film';
ALTER TABLE assets DROP CONSTRAINT assets_kind_check;
ALTER TABLE assets ADD CONSTRAINT assets_kind_check CHECK (kind IN ('font', 'surround', 'drawing', 'proof', 'press'));
ALTER TABLE finishes DROP COLUMN version, DROP COLUMN actor;
ALTER TABLE assets DROP COLUMN actor;
ALTER TABLE press_jobs DROP COLUMN actor;
ALTER TABLE proofs DROP COLUMN actor;
ALTER TABLE revisions DROP COLUMN actor;
