CREATE TABLE withdrawn (
  signature_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  person_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  why TEXT NOT NULL,
  at DATETIME(6) NOT NULL,
  CONSTRAINT withdrawn_what FOREIGN KEY (signature_id) REFERENCES signature (id),
  CONSTRAINT withdrawn_by FOREIGN KEY (person_id) REFERENCES person (id)
) ENGINE=InnoDB;
