CREATE TABLE signature (
  id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY COMMENT 'made by the client',
  job_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  number INT UNSIGNED NOT NULL COMMENT 'of the issued revision',
  part_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  hand VARCHAR(8) CHARACTER SET ascii NOT NULL,
  step VARCHAR(60) CHARACTER SET ascii NOT NULL,
  metal VARCHAR(40) CHARACTER SET ascii NOT NULL,
  nth INT UNSIGNED NOT NULL COMMENT 'how many of this step were withdrawn before it',
  person_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  name VARCHAR(80) NOT NULL COMMENT 'of the person, as it then was',
  note TEXT NOT NULL,
  at DATETIME(6) NOT NULL,
  UNIQUE KEY signature_once (job_id, part_id, hand, step, metal, nth),
  CONSTRAINT signature_job FOREIGN KEY (job_id) REFERENCES job (id),
  CONSTRAINT signature_by FOREIGN KEY (person_id) REFERENCES person (id)
) ENGINE=InnoDB;
