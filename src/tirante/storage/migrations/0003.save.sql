CREATE TABLE save (
  save_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY COMMENT 'made by the client',
  job_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  version INT UNSIGNED NOT NULL COMMENT 'draft version, or revision number of a branch',
  saved_at DATETIME(6) NOT NULL,
  CONSTRAINT save_of_job FOREIGN KEY (job_id) REFERENCES job (id)
) ENGINE=InnoDB;
