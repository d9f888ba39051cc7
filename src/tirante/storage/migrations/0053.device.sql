CREATE TABLE device (
  id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  name VARCHAR(80) NOT NULL COMMENT 'as whoever paired it called it',
  token CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL COMMENT 'SHA-256 of what the device has',
  paired_by CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  paired_at DATETIME(6) NOT NULL,
  seen_at DATETIME(6) NOT NULL,
  ended_at DATETIME(6) NULL COMMENT 'from when on it is let in no more',
  UNIQUE KEY device_token (token),
  CONSTRAINT device_paired_by FOREIGN KEY (paired_by) REFERENCES person (id)
) ENGINE=InnoDB;
