-- Tries to sign in are counted by account and by where they come from; a place from which somebody has signed in before
-- is not shut out by strangers.
ALTER TABLE sign_in_attempt ADD COLUMN IF NOT EXISTS origin VARCHAR(64) NOT NULL DEFAULT '';
ALTER TABLE sign_in_attempt ADD KEY IF NOT EXISTS sign_in_attempt_origin (origin, at);
CREATE TABLE IF NOT EXISTS known_origin (
  account_id UUID NOT NULL,
  origin VARCHAR(64) NOT NULL,
  seen_at DATETIME(3) NOT NULL,
  PRIMARY KEY (account_id, origin),
  CONSTRAINT known_origin_account FOREIGN KEY (account_id) REFERENCES account (id) ON DELETE CASCADE
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;

-- Whoever has the key that the command printed sets the shop up; it is gone afterwards.
CREATE TABLE IF NOT EXISTS setup_key (
  id INT NOT NULL PRIMARY KEY,
  key_hash BINARY(32) NOT NULL,
  created_at DATETIME(3) NOT NULL
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;

-- The same exported job brought in twice is found by what it holds.
ALTER TABLE job ADD COLUMN IF NOT EXISTS import_sha256 BINARY(32) NULL;
ALTER TABLE job ADD KEY IF NOT EXISTS job_import (shop_id, import_sha256);
