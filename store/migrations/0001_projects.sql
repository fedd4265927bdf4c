-- Up Migration
CREATE TABLE projects (
  id          text PRIMARY KEY,
  name        text NOT NULL,
  version     integer NOT NULL,
  document    jsonb NOT NULL,
  created_at  timestamptz NOT NULL DEFAULT now(),
  updated_at  timestamptz NOT NULL DEFAULT now(),
  deleted_at  timestamptz
);

-- Append-only: every version a project ever had. A version that lost a race is kept with its base.
CREATE TABLE revisions (
  id          bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  project_id  text NOT NULL REFERENCES projects (id),
  version     integer,
  base        integer,
  document    jsonb NOT NULL,
  saved_at    timestamptz NOT NULL DEFAULT now(),
  CHECK ((version IS NULL) <> (base IS NULL)),
  UNIQUE (project_id, version)
);

-- Content-addressed files: fonts, environment pictures, proof pictures.
CREATE TABLE assets (
  hash        text PRIMARY KEY CHECK (hash ~ '^[0-9a-f]{64}$'),
  kind        text NOT NULL CHECK (kind IN ('font', 'surround', 'proof')),
  name        text NOT NULL,
  size        bigint NOT NULL,
  created_at  timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE asset_chunks (
  hash  text NOT NULL REFERENCES assets (hash) ON DELETE CASCADE,
  n     integer NOT NULL,
  data  bytea NOT NULL,
  PRIMARY KEY (hash, n)
);

CREATE TABLE proofs (
  id          text PRIMARY KEY,
  project_id  text NOT NULL REFERENCES projects (id),
  look        text NOT NULL,
  shot        text NOT NULL,
  name        text NOT NULL,
  picture     text NOT NULL REFERENCES assets (hash),
  width       integer NOT NULL,
  height      integer NOT NULL,
  samples     integer NOT NULL,
  seed        bigint NOT NULL,
  renderer    text NOT NULL,
  document    jsonb NOT NULL,
  kept_at     timestamptz NOT NULL DEFAULT now(),
  deleted_at  timestamptz
);
CREATE INDEX proofs_of_project ON proofs (project_id, kept_at);

-- Down Migration
DROP TABLE proofs, asset_chunks, assets, revisions, projects;
