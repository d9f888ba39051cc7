CREATE TABLE drew (
  job_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  person_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL COMMENT 'who saved or issued it, empty where nobody was signed in',
  version INT UNSIGNED NOT NULL COMMENT 'of the draft, with which they began',
  PRIMARY KEY (job_id, person_id),
  CONSTRAINT drew_job FOREIGN KEY (job_id) REFERENCES job (id)
) ENGINE=InnoDB;
