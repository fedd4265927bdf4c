-- Up Migration
ALTER TABLE assets DROP CONSTRAINT assets_kind_check;
ALTER TABLE assets ADD CONSTRAINT assets_kind_check
  CHECK (kind IN ('font', 'surround', 'drawing', 'proof', 'press'));

UPDATE finishes SET surface = '{"geometry_thin_walled": false}'::jsonb || surface;

-- Down Migration
DELETE FROM assets WHERE kind = 'drawing';
ALTER TABLE assets DROP CONSTRAINT assets_kind_check;
ALTER TABLE assets ADD CONSTRAINT assets_kind_check CHECK (kind IN ('font', 'surround', 'proof', 'press'));
