-- Photos of parts, plugs and labels that documents name by what they hold: the same picture is stored once in a shop.
CREATE TABLE IF NOT EXISTS library_photo (
  shop_id UUID NOT NULL,
  sha256 BINARY(32) NOT NULL,
  data MEDIUMBLOB NOT NULL,
  created_at DATETIME(3) NOT NULL,
  created_by VARCHAR(120) NOT NULL,
  PRIMARY KEY (shop_id, sha256),
  CONSTRAINT library_photo_shop FOREIGN KEY (shop_id) REFERENCES shop (id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;
