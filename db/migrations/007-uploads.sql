-- Uploads on their way, piece by piece: one that breaks off goes on where it was, through any server.
CREATE TABLE IF NOT EXISTS upload (
  id UUID NOT NULL PRIMARY KEY,
  shop_id UUID NOT NULL,
  job_id UUID NOT NULL,
  account_id UUID NOT NULL,
  content_id UUID NOT NULL,
  received BIGINT NOT NULL,
  pieces INT NOT NULL,
  created_at DATETIME(3) NOT NULL,
  KEY upload_content (content_id),
  CONSTRAINT upload_job FOREIGN KEY (job_id) REFERENCES job (id),
  CONSTRAINT upload_content FOREIGN KEY (content_id) REFERENCES file_content (id) ON DELETE CASCADE
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;
