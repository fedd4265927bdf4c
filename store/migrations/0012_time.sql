-- Up Migration
-- Jobs of the press make pictures of a shot, from `first` to `last`; each is a row, so that any node takes up any of them.
ALTER TABLE press_jobs ADD COLUMN first integer NOT NULL DEFAULT 0, ADD COLUMN last integer NOT NULL DEFAULT 0;
ALTER TABLE press_jobs ALTER COLUMN first DROP DEFAULT, ALTER COLUMN last DROP DEFAULT;
CREATE TABLE press_frames (
  job_id        text NOT NULL REFERENCES press_jobs (id) ON DELETE CASCADE,
  frame         integer NOT NULL,
  samples_done  integer NOT NULL DEFAULT 0,
  seconds       double precision NOT NULL DEFAULT 0,
  result        text REFERENCES assets (hash),
  PRIMARY KEY (job_id, frame)
);
CREATE INDEX press_frames_results ON press_frames (result) WHERE result IS NOT NULL;
INSERT INTO press_frames (job_id, frame, samples_done, seconds, result)
  SELECT id, 0, samples_done, seconds, result FROM press_jobs;
ALTER TABLE press_jobs DROP COLUMN samples_done, DROP COLUMN seconds, DROP COLUMN result;
-- The moving picture that a job's pictures are bound to, where one was asked for.
ALTER TABLE press_jobs ADD COLUMN bound text REFERENCES assets (hash);
ALTER TABLE press_films ADD COLUMN frame integer NOT NULL DEFAULT 0;
ALTER TABLE press_films ALTER COLUMN frame DROP DEFAULT;
ALTER TABLE press_films DROP CONSTRAINT press_films_pkey, ADD PRIMARY KEY (job_id, frame, n);
-- The picture of its shot that a proof was kept at.
ALTER TABLE proofs ADD COLUMN frame double precision NOT NULL DEFAULT 0;

-- Down Migration
ALTER TABLE proofs DROP COLUMN frame;
DELETE FROM press_films f USING press_jobs j WHERE j.id = f.job_id AND f.frame <> j.first;
ALTER TABLE press_films DROP CONSTRAINT press_films_pkey, ADD PRIMARY KEY (job_id, n);
ALTER TABLE press_films DROP COLUMN frame;
ALTER TABLE press_jobs ADD COLUMN samples_done integer NOT NULL DEFAULT 0,
  ADD COLUMN seconds double precision NOT NULL DEFAULT 0, ADD COLUMN result text REFERENCES assets (hash);
UPDATE press_jobs j SET samples_done = f.samples_done, seconds = f.seconds, result = f.result
  FROM press_frames f WHERE f.job_id = j.id AND f.frame = j.first;
DROP TABLE press_frames;
ALTER TABLE press_jobs DROP COLUMN bound, DROP COLUMN last, DROP COLUMN first;
