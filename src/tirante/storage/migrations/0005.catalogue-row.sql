CREATE TABLE catalogue_row (
  kind VARCHAR(16) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  row_key VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  position INT UNSIGNED NOT NULL,
  document JSON NOT NULL,
  origin ENUM('seed', 'shop') NOT NULL,
  PRIMARY KEY (kind, row_key)
) ENGINE=InnoDB;
