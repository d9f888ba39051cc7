CREATE TABLE rack (
  id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY COMMENT 'made by the client',
  version INT UNSIGNED NOT NULL,
  document TEXT NOT NULL COMMENT 'JSON: what stands there',
  changed_at DATETIME(6) NOT NULL
) ENGINE=InnoDB;
