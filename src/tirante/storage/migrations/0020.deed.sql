CREATE TABLE deed (
  number BIGINT UNSIGNED NOT NULL PRIMARY KEY COMMENT 'one after another, none left out',
  at DATETIME(6) NOT NULL,
  person_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NULL COMMENT 'who did it, null where nobody is known',
  what VARCHAR(40) CHARACTER SET ascii NOT NULL,
  body MEDIUMTEXT NOT NULL COMMENT 'what of, as JSON',
  before_it CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL COMMENT 'the link of the one before',
  link CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL COMMENT 'SHA-256 over that and all of this'
) ENGINE=InnoDB;
