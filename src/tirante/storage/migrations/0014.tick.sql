CREATE TABLE tick (
  id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY COMMENT 'made by the client',
  job_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  number INT UNSIGNED NULL COMMENT 'the issued revision whose card it was, null of a draft',
  part_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  hand VARCHAR(8) CHARACTER SET ascii NOT NULL,
  step VARCHAR(60) CHARACTER SET ascii NOT NULL,
  metal VARCHAR(40) CHARACTER SET ascii NOT NULL COMMENT 'fingerprint of the part as the card had it',
  done TINYINT(1) NOT NULL,
  made_at DATETIME(6) NOT NULL COMMENT 'when it was ticked, as the page says',
  came_at DATETIME(6) NOT NULL COMMENT 'when it came here',
  KEY tick_of_job (job_id, part_id),
  CONSTRAINT tick_job FOREIGN KEY (job_id) REFERENCES job (id)
) ENGINE=InnoDB;
