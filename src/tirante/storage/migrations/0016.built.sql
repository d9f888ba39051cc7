CREATE TABLE built_entry (
  id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY COMMENT 'made by the client',
  number BIGINT UNSIGNED NOT NULL AUTO_INCREMENT COMMENT 'in the order in which they came',
  job_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  sort VARCHAR(12) CHARACTER SET ascii NOT NULL COMMENT 'angle or back',
  body MEDIUMTEXT NOT NULL COMMENT 'the entry as JSON',
  made_at DATETIME(6) NOT NULL COMMENT 'when it was read, as the page says',
  came_at DATETIME(6) NOT NULL COMMENT 'when it came here',
  UNIQUE KEY built_number (number),
  KEY built_of_job (job_id, number),
  CONSTRAINT built_job FOREIGN KEY (job_id) REFERENCES job (id)
) ENGINE=InnoDB;
