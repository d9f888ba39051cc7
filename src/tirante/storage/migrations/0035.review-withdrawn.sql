CREATE TABLE review_withdrawn (
  review_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  person_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  why TEXT NOT NULL,
  at DATETIME(6) NOT NULL,
  CONSTRAINT review_withdrawn_what FOREIGN KEY (review_id) REFERENCES review (id),
  CONSTRAINT review_withdrawn_by FOREIGN KEY (person_id) REFERENCES person (id)
) ENGINE=InnoDB;
