CREATE TABLE draft (
  job_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  version INT UNSIGNED NOT NULL,
  based_on INT UNSIGNED NULL COMMENT 'revision the draft grew from',
  document MEDIUMBLOB NOT NULL COMMENT 'deflated JSON',
  digest CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  saved_at DATETIME(6) NOT NULL,
  CONSTRAINT draft_of_job FOREIGN KEY (job_id) REFERENCES job (id),
  CONSTRAINT draft_version_counts_from_one CHECK (version >= 1)
) ENGINE=InnoDB;
