CREATE TABLE issued (
  job_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  number INT UNSIGNED NOT NULL,
  engine VARCHAR(40) CHARACTER SET ascii NOT NULL COMMENT 'that its figures were worked out by',
  figures LONGBLOB NOT NULL COMMENT 'deflated JSON: parts, pieces and checks as they were issued',
  pack LONGBLOB NOT NULL COMMENT 'zip: sheets, drawings and lists as they were issued',
  PRIMARY KEY (job_id, number),
  CONSTRAINT issued_of_revision FOREIGN KEY (job_id, number) REFERENCES revision (job_id, number)
) ENGINE=InnoDB;
