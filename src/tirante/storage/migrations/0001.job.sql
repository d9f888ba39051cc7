CREATE TABLE job (
  id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  name VARCHAR(80) NOT NULL,
  demo VARCHAR(40) NULL UNIQUE COMMENT 'name of the shipped demo this came from',
  created_at DATETIME(6) NOT NULL,
  CONSTRAINT job_has_a_name CHECK (CHAR_LENGTH(name) > 0)
) ENGINE=InnoDB;
