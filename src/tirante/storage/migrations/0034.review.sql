CREATE TABLE review (
  id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY COMMENT 'made by the client',
  job_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  number INT UNSIGNED NOT NULL COMMENT 'of the issued revision',
  nth INT UNSIGNED NOT NULL COMMENT 'how many of this revision were withdrawn before it',
  person_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  name VARCHAR(80) NOT NULL COMMENT 'of the person, as it then was',
  limits TEXT NOT NULL COMMENT 'what was looked at, and what was not',
  at DATETIME(6) NOT NULL,
  pack LONGBLOB NOT NULL COMMENT 'zip: that of the issue with the review on its sheets',
  UNIQUE KEY review_once (job_id, number, nth),
  CONSTRAINT review_of FOREIGN KEY (job_id, number) REFERENCES issued (job_id, number),
  CONSTRAINT review_by FOREIGN KEY (person_id) REFERENCES person (id)
) ENGINE=InnoDB;
