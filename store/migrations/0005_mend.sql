-- Up Migration
-- What the list of projects shows stands in the row, so that listing reads no documents.
CREATE SEQUENCE project_touches;
ALTER TABLE projects
  ADD COLUMN look    text NOT NULL DEFAULT '',
  ADD COLUMN words   text NOT NULL DEFAULT '',
  ADD COLUMN picture text REFERENCES assets (hash),
  ADD COLUMN proofs  integer NOT NULL DEFAULT 0,
  -- order of the last change, whatever the clock says
  ADD COLUMN touched bigint NOT NULL DEFAULT nextval('project_touches');

UPDATE projects p SET
  look    = coalesce(p.document #>> '{looks,0,id}', ''),
  words   = coalesce((SELECT string_agg(t #>> '{}', ' ') FROM jsonb_path_query(p.document, '$.blocks[*].text') t), ''),
  picture = (SELECT q.picture FROM proofs q WHERE q.project_id = p.id AND q.deleted_at IS NULL ORDER BY kept_at DESC LIMIT 1),
  proofs  = (SELECT count(*) FROM proofs q WHERE q.project_id = p.id AND q.deleted_at IS NULL),
  touched = o.n
  FROM (SELECT id, row_number() OVER (ORDER BY updated_at, id) AS n FROM projects) o WHERE o.id = p.id;
SELECT setval('project_touches', greatest(1, (SELECT count(*) FROM projects)));
CREATE INDEX projects_by_touch ON projects (touched DESC) WHERE deleted_at IS NULL;

-- A revision knows the edit that made it, the step of history it belongs to and the save that brought it.
ALTER TABLE revisions
  ADD COLUMN label   text NOT NULL DEFAULT '',
  ADD COLUMN step    text,
  ADD COLUMN save_id text,
  ADD COLUMN picture text REFERENCES assets (hash);
CREATE INDEX revisions_in_order ON revisions (project_id, id DESC);
CREATE INDEX revisions_by_save ON revisions (project_id, save_id) WHERE save_id IS NOT NULL;

-- Rows that are written over and over are tidied by number, not by share.
ALTER TABLE projects SET (autovacuum_vacuum_scale_factor = 0, autovacuum_vacuum_threshold = 200,
  toast.autovacuum_vacuum_scale_factor = 0, toast.autovacuum_vacuum_threshold = 1000);
ALTER TABLE revisions SET (autovacuum_vacuum_scale_factor = 0, autovacuum_vacuum_threshold = 200,
  toast.autovacuum_vacuum_scale_factor = 0, toast.autovacuum_vacuum_threshold = 1000);

-- Files that a project, or any of its revisions and proofs, has ever leaned on.
CREATE TABLE asset_uses (
  project_id  text NOT NULL REFERENCES projects (id),
  hash        text NOT NULL REFERENCES assets (hash),
  PRIMARY KEY (project_id, hash)
);
CREATE INDEX asset_uses_by_hash ON asset_uses (hash);
INSERT INTO asset_uses (project_id, hash)
SELECT DISTINCT d.project_id, a.hash
  FROM (SELECT id AS project_id, document FROM projects
        UNION ALL SELECT project_id, document FROM revisions
        UNION ALL SELECT project_id, document FROM proofs
        UNION ALL SELECT project_id, document FROM press_jobs) d
  CROSS JOIN LATERAL (
        SELECT jsonb_path_query(d.document, '$.blocks[*].font.id')
        UNION ALL SELECT jsonb_path_query(d.document, '$.blocks[*].drawing.id')
        UNION ALL SELECT jsonb_path_query(d.document, '$.looks[*].surround.id')) named(value)
  JOIN assets a ON a.hash = named.value #>> '{}';

-- Order of proofs and press jobs, whatever the clock says.
ALTER TABLE proofs ADD COLUMN n bigint;
UPDATE proofs p SET n = o.n FROM (SELECT id, row_number() OVER (ORDER BY kept_at, id) AS n FROM proofs) o WHERE o.id = p.id;
ALTER TABLE proofs ALTER COLUMN n SET NOT NULL, ALTER COLUMN n ADD GENERATED ALWAYS AS IDENTITY;
SELECT setval(pg_get_serial_sequence('proofs', 'n'), greatest(1, (SELECT max(n) FROM proofs)));
DROP INDEX proofs_of_project;
CREATE INDEX proofs_of_project ON proofs (project_id, n);

ALTER TABLE press_jobs ADD COLUMN n bigint;
UPDATE press_jobs p SET n = o.n FROM (SELECT id, row_number() OVER (ORDER BY asked_at, id) AS n FROM press_jobs) o WHERE o.id = p.id;
ALTER TABLE press_jobs ALTER COLUMN n SET NOT NULL, ALTER COLUMN n ADD GENERATED ALWAYS AS IDENTITY;
SELECT setval(pg_get_serial_sequence('press_jobs', 'n'), greatest(1, (SELECT max(n) FROM press_jobs)));
DROP INDEX press_jobs_of_project;
CREATE INDEX press_jobs_of_project ON press_jobs (project_id, n);

-- A node counts its beats; others see by their own watch whether the count still moves.
ALTER TABLE render_nodes DROP COLUMN seen_at, ADD COLUMN beats bigint NOT NULL DEFAULT 0;

-- Down Migration
ALTER TABLE render_nodes DROP COLUMN beats, ADD COLUMN seen_at timestamptz NOT NULL DEFAULT now();
DROP INDEX press_jobs_of_project, proofs_of_project;
CREATE INDEX press_jobs_of_project ON press_jobs (project_id, asked_at);
CREATE INDEX proofs_of_project ON proofs (project_id, kept_at);
ALTER TABLE press_jobs DROP COLUMN n;
ALTER TABLE proofs DROP COLUMN n;
DROP TABLE asset_uses;
DROP INDEX revisions_by_save, revisions_in_order, projects_by_touch;
ALTER TABLE revisions DROP COLUMN label, DROP COLUMN step, DROP COLUMN save_id, DROP COLUMN picture;
ALTER TABLE projects DROP COLUMN look, DROP COLUMN words, DROP COLUMN picture, DROP COLUMN proofs, DROP COLUMN touched;
DROP SEQUENCE project_touches;
