-- The version of its kind in which an entry was written; it is brought to the present one as it is read.
ALTER TABLE job_entry ADD COLUMN IF NOT EXISTS version SMALLINT NOT NULL DEFAULT 1;

-- Bytes under a key of their own for every attempt. A file names the attempt that was complete; what no file names is a
-- leftover of an upload that broke off.
CREATE TABLE IF NOT EXISTS file_content (
  id UUID NOT NULL PRIMARY KEY,
  shop_id UUID NOT NULL,
  created_at DATETIME(3) NOT NULL,
  KEY file_content_created (created_at)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;

INSERT IGNORE INTO file_content (id, shop_id, created_at) SELECT id, shop_id, created_at FROM job_file;

ALTER TABLE job_chunk DROP FOREIGN KEY IF EXISTS bus_chunk_file;
ALTER TABLE job_chunk CHANGE COLUMN IF EXISTS file_id content_id UUID NOT NULL;
ALTER TABLE job_chunk ADD CONSTRAINT FOREIGN KEY IF NOT EXISTS job_chunk_content (content_id) REFERENCES file_content (id);

-- Uploads that were never completed are no files.
DELETE FROM job_file WHERE stored_at IS NULL;
ALTER TABLE job_file
  ADD COLUMN IF NOT EXISTS content_id UUID NULL,
  ADD COLUMN IF NOT EXISTS what ENUM('log', 'dbc', 'photo') NOT NULL DEFAULT 'log',
  ADD COLUMN IF NOT EXISTS account_id UUID NULL,
  ADD COLUMN IF NOT EXISTS sha256 BINARY(32) NULL;
UPDATE job_file SET content_id = id WHERE content_id IS NULL;
UPDATE job_file SET what = IF(name = 'photo', 'photo', IF(name LIKE '%.dbc', 'dbc', 'log'));
ALTER TABLE job_file
  MODIFY content_id UUID NOT NULL,
  ADD CONSTRAINT FOREIGN KEY IF NOT EXISTS job_file_content (content_id) REFERENCES file_content (id);

-- Who brought a job from elsewhere.
ALTER TABLE job ADD COLUMN IF NOT EXISTS imported_by VARCHAR(120) NULL;
