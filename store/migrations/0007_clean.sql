-- Up Migration
-- The press cleans pictures by an amount, and stops squares of pixels at a noise; 0 does neither.
ALTER TABLE press_jobs ADD COLUMN denoise real NOT NULL DEFAULT 0;
ALTER TABLE press_jobs ADD COLUMN noise real NOT NULL DEFAULT 0;
ALTER TABLE press_jobs ALTER COLUMN denoise DROP DEFAULT;
ALTER TABLE press_jobs ALTER COLUMN noise DROP DEFAULT;

-- Down Migration
ALTER TABLE press_jobs DROP COLUMN noise, DROP COLUMN denoise;
