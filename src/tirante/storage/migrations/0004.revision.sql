CREATE TABLE revision (
  job_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  number INT UNSIGNED NOT NULL,
  parent INT UNSIGNED NULL,
  kind ENUM('sealed', 'named', 'issued', 'branch') NOT NULL,
  name VARCHAR(80) NOT NULL DEFAULT '',
  reviewer VARCHAR(80) NULL,
  document MEDIUMBLOB NOT NULL COMMENT 'deflated JSON',
  digest CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  sealed_at DATETIME(6) NOT NULL,
  PRIMARY KEY (job_id, number),
  CONSTRAINT revision_of_job FOREIGN KEY (job_id) REFERENCES job (id),
  CONSTRAINT revision_parent FOREIGN KEY (job_id, parent) REFERENCES revision (job_id, number),
  CONSTRAINT revision_numbers_from_one CHECK (number >= 1)
) ENGINE=InnoDB;
