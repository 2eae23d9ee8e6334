-- Who has a job open, and on which surface: a row for each open page, renewed while it is open.
CREATE TABLE IF NOT EXISTS presence (
  id UUID NOT NULL PRIMARY KEY,
  job_id UUID NOT NULL,
  account_id UUID NOT NULL,
  surface VARCHAR(20) NOT NULL,
  seen_at DATETIME(3) NOT NULL,
  KEY presence_job (job_id, seen_at),
  CONSTRAINT presence_job FOREIGN KEY (job_id) REFERENCES job (id) ON DELETE CASCADE,
  CONSTRAINT presence_account FOREIGN KEY (account_id) REFERENCES account (id) ON DELETE CASCADE
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;
