CREATE TABLE cutting (
  id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY COMMENT 'made by the client',
  job_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  state ENUM('kept', 'cut', 'undone') NOT NULL DEFAULT 'kept',
  document LONGTEXT NOT NULL COMMENT 'JSON: the sticks as they were laid out, never worked out again',
  made_at DATETIME(6) NOT NULL,
  changed_at DATETIME(6) NOT NULL,
  KEY cutting_of_job (job_id, made_at),
  CONSTRAINT cutting_job FOREIGN KEY (job_id) REFERENCES job (id)
) ENGINE=InnoDB;
