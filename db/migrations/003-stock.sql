-- Small material on the shop's shelf, in pieces or metres as the material is counted.
CREATE TABLE shop_stock (
  shop_id UUID NOT NULL,
  what VARCHAR(80) NOT NULL,
  amount DECIMAL(9, 2) NOT NULL,
  counted_at DATETIME(3) NOT NULL,
  counted_by VARCHAR(120) NOT NULL,
  PRIMARY KEY (shop_id, what)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;
