CREATE TABLE measured (
  id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY COMMENT 'made by the client',
  number BIGINT UNSIGNED NOT NULL AUTO_INCREMENT COMMENT 'in the order in which they came',
  job_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  part_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  hand VARCHAR(8) CHARACTER SET ascii NOT NULL,
  metal VARCHAR(40) CHARACTER SET ascii NOT NULL,
  what VARCHAR(200) NOT NULL COMMENT 'key of what is measured',
  mm DOUBLE NOT NULL,
  body MEDIUMTEXT NOT NULL COMMENT 'JSON: instrument, state, who, note',
  person_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NULL COMMENT 'who was signed in',
  came_at DATETIME(6) NOT NULL,
  UNIQUE KEY measured_number (number),
  KEY measured_of_job (job_id, part_id, number),
  CONSTRAINT measured_job FOREIGN KEY (job_id) REFERENCES job (id)
) ENGINE=InnoDB;
