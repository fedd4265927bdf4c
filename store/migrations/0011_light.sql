-- Up Migration
-- Photometric files; what surrounds are like, and words they are found by; rigs for every project to start from.
ALTER TABLE assets DROP CONSTRAINT assets_kind_check;
ALTER TABLE assets ADD CONSTRAINT assets_kind_check
  CHECK (kind IN ('font', 'surround', 'drawing', 'picture', 'profile', 'proof', 'film', 'press'));
-- The same bytes may be taken in as more than one kind: a picture on a panel, and a surround.
ALTER TABLE assets ADD COLUMN facts jsonb, ADD COLUMN tags text[] NOT NULL DEFAULT '{}',
  ADD COLUMN also text[] NOT NULL DEFAULT '{}';
CREATE TABLE rigs (
  id          text PRIMARY KEY,
  rig         jsonb NOT NULL,
  version     integer NOT NULL,
  files       text[] NOT NULL,
  kept_at     timestamptz NOT NULL DEFAULT now(),
  deleted_at  timestamptz,
  actor       text NOT NULL
);
CREATE INDEX rigs_files ON rigs USING gin (files);

-- Down Migration
DROP TABLE rigs;
ALTER TABLE assets DROP COLUMN also, DROP COLUMN tags, DROP COLUMN facts;
DELETE FROM assets WHERE kind = 'profile';
ALTER TABLE assets DROP CONSTRAINT assets_kind_check;
ALTER TABLE assets ADD CONSTRAINT assets_kind_check
  CHECK (kind IN ('font', 'surround', 'drawing', 'picture', 'proof', 'film', 'press'));
