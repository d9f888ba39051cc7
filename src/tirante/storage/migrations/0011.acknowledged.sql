CREATE TABLE acknowledged (
  job_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  number INT UNSIGNED NOT NULL,
  person VARCHAR(80) NOT NULL COMMENT 'who answers for issuing it with what is not settled',
  `lines` LONGTEXT NOT NULL COMMENT 'JSON: what was not settled, a sentence each',
  PRIMARY KEY (job_id, number),
  CONSTRAINT acknowledged_of_revision FOREIGN KEY (job_id, number) REFERENCES revision (job_id, number)
) ENGINE=InnoDB;
