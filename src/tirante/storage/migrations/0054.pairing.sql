CREATE TABLE pairing (
  one TINYINT NOT NULL PRIMARY KEY COMMENT 'there is one at a time',
  code CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL COMMENT 'SHA-256 of what is typed at the device',
  name VARCHAR(80) NOT NULL COMMENT 'of the device',
  made_by CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  made_at DATETIME(6) NOT NULL,
  wrong INT NOT NULL DEFAULT 0 COMMENT 'how often another was typed',
  CONSTRAINT pairing_one CHECK (one = 1),
  CONSTRAINT pairing_made_by FOREIGN KEY (made_by) REFERENCES person (id)
) ENGINE=InnoDB;
