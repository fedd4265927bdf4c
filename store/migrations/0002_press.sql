-- Up Migration
ALTER TABLE assets DROP CONSTRAINT assets_kind_check;
ALTER TABLE assets ADD CONSTRAINT assets_kind_check CHECK (kind IN ('font', 'surround', 'proof', 'press'));

-- Pictures being made by render nodes, with the document they are made from.
CREATE TABLE press_jobs (
  id            text PRIMARY KEY,
  project_id    text NOT NULL REFERENCES projects (id),
  name          text NOT NULL,
  look          text NOT NULL,
  shot          text NOT NULL,
  document      jsonb NOT NULL,
  width         integer NOT NULL,
  height        integer NOT NULL,
  samples       integer NOT NULL,
  seed          bigint NOT NULL,
  format        text NOT NULL,
  alpha         boolean NOT NULL,
  layers        boolean NOT NULL,
  state         text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'tracing', 'done', 'failed', 'cancelled')),
  samples_done  integer NOT NULL DEFAULT 0,
  seconds       double precision NOT NULL DEFAULT 0,
  message       text NOT NULL DEFAULT '',
  result        text REFERENCES assets (hash),
  asked_at      timestamptz NOT NULL DEFAULT now(),
  ended_at      timestamptz
);
CREATE INDEX press_jobs_of_project ON press_jobs (project_id, asked_at);

-- The film of a job under way, so that another node can go on where one died.
CREATE TABLE press_films (
  job_id   text NOT NULL REFERENCES press_jobs (id) ON DELETE CASCADE,
  n        integer NOT NULL,
  samples  integer NOT NULL,
  data     bytea NOT NULL,
  PRIMARY KEY (job_id, n)
);

-- Render nodes that are alive; the work of silent ones is taken over.
CREATE TABLE render_nodes (
  worker_id  text PRIMARY KEY,
  seen_at    timestamptz NOT NULL DEFAULT now()
);

-- Down Migration
DROP TABLE render_nodes, press_films, press_jobs;
