CREATE TABLE shop (
  id UUID NOT NULL PRIMARY KEY,
  name VARCHAR(120) NOT NULL,
  created_at DATETIME(3) NOT NULL
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;

CREATE TABLE account (
  id UUID NOT NULL PRIMARY KEY,
  shop_id UUID NOT NULL,
  email VARCHAR(190) NOT NULL,
  name VARCHAR(120) NOT NULL,
  role ENUM('technician', 'lead', 'counter', 'read-only') NOT NULL,
  password_hash VARCHAR(255) NOT NULL,
  demo BOOLEAN NOT NULL DEFAULT FALSE,
  created_at DATETIME(3) NOT NULL,
  UNIQUE KEY account_email (email),
  CONSTRAINT account_shop FOREIGN KEY (shop_id) REFERENCES shop (id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;

CREATE TABLE session (
  token_hash BINARY(32) NOT NULL PRIMARY KEY,
  account_id UUID NOT NULL,
  shop_id UUID NOT NULL,
  created_at DATETIME(3) NOT NULL,
  expires_at DATETIME(3) NOT NULL,
  KEY session_expiry (expires_at),
  CONSTRAINT session_account FOREIGN KEY (account_id) REFERENCES account (id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;

CREATE TABLE sign_in_attempt (
  id UUID NOT NULL PRIMARY KEY,
  email VARCHAR(190) NOT NULL,
  at DATETIME(3) NOT NULL,
  KEY sign_in_attempt_email (email, at)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;

CREATE TABLE profile (
  id UUID NOT NULL PRIMARY KEY,
  shop_id UUID NOT NULL,
  kind ENUM('car', 'variant', 'kit') NOT NULL,
  slug VARCHAR(60) NOT NULL,
  version INT NOT NULL,
  title VARCHAR(600) NOT NULL,
  document LONGTEXT NOT NULL,
  created_at DATETIME(3) NOT NULL,
  created_by VARCHAR(120) NOT NULL,
  UNIQUE KEY profile_version (shop_id, kind, slug, version),
  CONSTRAINT profile_shop FOREIGN KEY (shop_id) REFERENCES shop (id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;

CREATE TABLE job (
  id UUID NOT NULL PRIMARY KEY,
  shop_id UUID NOT NULL,
  number INT NOT NULL,
  title VARCHAR(200) NOT NULL,
  customer VARCHAR(200) NOT NULL,
  car_profile UUID NOT NULL,
  variant_profile UUID NOT NULL,
  kit_profile UUID NOT NULL,
  stage VARCHAR(20) NOT NULL,
  next_action VARCHAR(300) NOT NULL,
  version INT NOT NULL DEFAULT 0,
  closed_at DATETIME(3) NULL,
  created_at DATETIME(3) NOT NULL,
  UNIQUE KEY job_number (shop_id, number),
  CONSTRAINT job_shop FOREIGN KEY (shop_id) REFERENCES shop (id),
  CONSTRAINT job_car FOREIGN KEY (car_profile) REFERENCES profile (id),
  CONSTRAINT job_variant FOREIGN KEY (variant_profile) REFERENCES profile (id),
  CONSTRAINT job_kit FOREIGN KEY (kit_profile) REFERENCES profile (id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;

-- Append only. `position` is the version the job had after the entry.
CREATE TABLE job_entry (
  id UUID NOT NULL PRIMARY KEY,
  shop_id UUID NOT NULL,
  job_id UUID NOT NULL,
  position INT NOT NULL,
  at DATETIME(3) NOT NULL,
  by_name VARCHAR(120) NOT NULL,
  account_id UUID NULL,
  kind VARCHAR(40) NOT NULL,
  data LONGTEXT NOT NULL,
  UNIQUE KEY job_entry_position (job_id, position),
  CONSTRAINT job_entry_job FOREIGN KEY (job_id) REFERENCES job (id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;

-- Files are complete when `stored_at` is set; rows without it are leftovers of a broken upload.
CREATE TABLE bus_file (
  id UUID NOT NULL PRIMARY KEY,
  shop_id UUID NOT NULL,
  job_id UUID NOT NULL,
  name VARCHAR(200) NOT NULL,
  bytes BIGINT NOT NULL,
  created_at DATETIME(3) NOT NULL,
  stored_at DATETIME(3) NULL,
  KEY bus_file_job (job_id),
  CONSTRAINT bus_file_job FOREIGN KEY (job_id) REFERENCES job (id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;

CREATE TABLE bus_chunk (
  file_id UUID NOT NULL,
  position INT NOT NULL,
  shop_id UUID NOT NULL,
  data MEDIUMBLOB NOT NULL,
  PRIMARY KEY (file_id, position),
  CONSTRAINT bus_chunk_file FOREIGN KEY (file_id) REFERENCES bus_file (id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;

CREATE TABLE stand_in (
  job_id UUID NOT NULL PRIMARY KEY,
  shop_id UUID NOT NULL,
  fault_id VARCHAR(200) NULL,
  CONSTRAINT stand_in_job FOREIGN KEY (job_id) REFERENCES job (id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;
