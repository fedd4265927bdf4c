-- Up Migration
-- Pictures painted by hand, one after each stroke: kept apart from those that were taken in, so that they crowd no list.
ALTER TABLE assets DROP CONSTRAINT assets_kind_check;
ALTER TABLE assets ADD CONSTRAINT assets_kind_check
  CHECK (kind IN ('font', 'surround', 'drawing', 'picture', 'painting', 'profile', 'model', 'footage', 'proof', 'film', 'press'));

-- Down Migration
DELETE FROM assets WHERE kind = 'painting';
ALTER TABLE assets DROP CONSTRAINT assets_kind_check;
ALTER TABLE assets ADD CONSTRAINT assets_kind_check
  CHECK (kind IN ('font', 'surround', 'drawing', 'picture', 'profile', 'model', 'footage', 'proof', 'film', 'press'));
