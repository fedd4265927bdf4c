-- Up Migration
-- A finish of the library is kept whole, as it was written: what it comes to have later needs no column.
ALTER TABLE finishes ADD COLUMN finish jsonb;
UPDATE finishes SET finish = jsonb_build_object(
  'id', id, 'name', name, 'family', family, 'surface', surface, 'feeds', feeds, 'coats', coats);
ALTER TABLE finishes ALTER COLUMN finish SET NOT NULL;
ALTER TABLE finishes DROP COLUMN name, DROP COLUMN family, DROP COLUMN surface, DROP COLUMN feeds, DROP COLUMN coats;

-- Down Migration
ALTER TABLE finishes
  ADD COLUMN name text, ADD COLUMN family text, ADD COLUMN surface jsonb, ADD COLUMN feeds jsonb, ADD COLUMN coats jsonb;
UPDATE finishes SET name = finish->>'name', family = finish->>'family', surface = finish->'surface',
  feeds = finish->'feeds', coats = finish->'coats';
ALTER TABLE finishes
  ALTER COLUMN name SET NOT NULL, ALTER COLUMN family SET NOT NULL, ALTER COLUMN surface SET NOT NULL,
  ALTER COLUMN feeds SET NOT NULL, ALTER COLUMN coats SET NOT NULL;
ALTER TABLE finishes DROP COLUMN finish;
