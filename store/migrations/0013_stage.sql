-- Up Migration
-- Models beside the type, and moving pictures.
ALTER TABLE assets DROP CONSTRAINT assets_kind_check;
ALTER TABLE assets ADD CONSTRAINT assets_kind_check
  CHECK (kind IN ('font', 'surround', 'drawing', 'picture', 'profile', 'model', 'footage', 'proof', 'film', 'press'));

-- Down Migration
DELETE FROM assets WHERE kind IN ('model', 'footage');
ALTER TABLE assets DROP CONSTRAINT assets_kind_check;
ALTER TABLE assets ADD CONSTRAINT assets_kind_check
  CHECK (kind IN ('font', 'surround', 'drawing', 'picture', 'profile', 'proof', 'film', 'press'));
