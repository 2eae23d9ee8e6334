-- A job is opened with a car alone; variant and kit may be found later.
ALTER TABLE job
  MODIFY variant_profile UUID NULL,
  MODIFY kit_profile UUID NULL,
  ADD COLUMN kit_title VARCHAR(600) NOT NULL DEFAULT '',
  ADD COLUMN car_slug VARCHAR(60) NOT NULL DEFAULT '',
  ADD COLUMN variant_slug VARCHAR(60) NOT NULL DEFAULT '',
  ADD COLUMN kit_slug VARCHAR(60) NOT NULL DEFAULT '',
  ADD KEY job_car_closed (shop_id, car_slug, closed_at),
  ADD KEY job_variant_closed (shop_id, variant_slug, closed_at),
  ADD KEY job_kit_closed (shop_id, kit_slug, closed_at);

UPDATE job j JOIN profile k ON k.id = j.kit_profile SET j.kit_title = k.title, j.kit_slug = k.slug;
UPDATE job j JOIN profile v ON v.id = j.variant_profile SET j.variant_slug = v.slug;
UPDATE job j JOIN profile c ON c.id = j.car_profile SET j.car_slug = c.slug;

-- The newest version of every profile with the words by which it is found: one scan of a shop's rows answers a search,
-- as long for one letter as for ten. `words` is blank-separated, `facets` reads |year:2017|country:no|.
CREATE TABLE profile_newest (
  shop_id UUID NOT NULL,
  kind ENUM('car', 'variant', 'kit') NOT NULL,
  slug VARCHAR(60) NOT NULL,
  profile_id UUID NOT NULL,
  version INT NOT NULL,
  title VARCHAR(600) NOT NULL,
  created_by VARCHAR(120) NOT NULL,
  words MEDIUMTEXT CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
  facets MEDIUMTEXT CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
  PRIMARY KEY (shop_id, kind, slug)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;

INSERT INTO profile_newest (shop_id, kind, slug, profile_id, version, title, created_by, words, facets)
SELECT p.shop_id, p.kind, p.slug, p.id, p.version, p.title, p.created_by, CONCAT(' ', LOWER(p.title)), ''
FROM profile p
JOIN (SELECT shop_id, kind, slug, MAX(version) AS version FROM profile GROUP BY shop_id, kind, slug) n
  ON n.shop_id = p.shop_id AND n.kind = p.kind AND n.slug = p.slug AND n.version = p.version;

-- Documents being written; they need not make sense yet.
CREATE TABLE profile_draft (
  id UUID NOT NULL PRIMARY KEY,
  shop_id UUID NOT NULL,
  kind ENUM('car', 'variant', 'kit') NOT NULL,
  title VARCHAR(600) NOT NULL,
  document LONGTEXT NOT NULL,
  version INT NOT NULL DEFAULT 1,
  updated_at DATETIME(3) NOT NULL,
  updated_by VARCHAR(120) NOT NULL,
  KEY profile_draft_shop (shop_id, updated_at),
  CONSTRAINT profile_draft_shop FOREIGN KEY (shop_id) REFERENCES shop (id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;

-- Prices of kits are in the currency of the shop, by its ISO 4217 code.
ALTER TABLE shop ADD COLUMN currency CHAR(3) NOT NULL DEFAULT 'EUR';

-- Photos stand beside bus logs: both are files of a job.
RENAME TABLE bus_file TO job_file, bus_chunk TO job_chunk;

-- The option of a school (sound path, microphone place, order of closing) that a shop takes when nobody says otherwise.
CREATE TABLE shop_usual (
  shop_id UUID NOT NULL,
  choice VARCHAR(60) NOT NULL,
  option_id VARCHAR(60) NOT NULL,
  PRIMARY KEY (shop_id, choice),
  CONSTRAINT shop_usual_shop FOREIGN KEY (shop_id) REFERENCES shop (id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;
