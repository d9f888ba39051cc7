CREATE TABLE print (
  id CHAR(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY COMMENT 'SHA-1 of job, revision, what and parts',
  job_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  number INT UNSIGNED NOT NULL COMMENT 'the revision that was printed',
  issued TINYINT(1) NOT NULL,
  what VARCHAR(40) CHARACTER SET ascii NOT NULL,
  parts LONGTEXT NOT NULL COMMENT 'JSON: id, name and fingerprint of the metal of each as it was printed',
  times INT UNSIGNED NOT NULL DEFAULT 1,
  first_at DATETIME(6) NOT NULL,
  last_at DATETIME(6) NOT NULL,
  KEY print_of_job (job_id, last_at),
  CONSTRAINT print_job FOREIGN KEY (job_id) REFERENCES job (id)
) ENGINE=InnoDB;
