CREATE TABLE signed_in (
  token CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY COMMENT 'SHA-256 of what the browser has',
  person_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  csrf CHAR(43) CHARACTER SET ascii COLLATE ascii_bin NOT NULL COMMENT 'that every change must bring along',
  made_at DATETIME(6) NOT NULL,
  seen_at DATETIME(6) NOT NULL,
  KEY signed_in_person (person_id),
  CONSTRAINT signed_in_of FOREIGN KEY (person_id) REFERENCES person (id)
) ENGINE=InnoDB;
