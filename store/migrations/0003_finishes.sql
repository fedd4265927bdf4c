-- Up Migration
-- Finishes kept for every project to start from.
CREATE TABLE finishes (
  id          text PRIMARY KEY,
  name        text NOT NULL,
  family      text NOT NULL,
  surface     jsonb NOT NULL,
  kept_at     timestamptz NOT NULL DEFAULT now(),
  deleted_at  timestamptz
);

-- Down Migration
DROP TABLE finishes;
