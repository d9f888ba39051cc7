CREATE TABLE person (
  id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY COMMENT 'made by the client',
  name VARCHAR(80) NOT NULL COMMENT 'that signs, and that is signed in with',
  role VARCHAR(10) CHARACTER SET ascii NOT NULL COMMENT 'owner, designer, bench or reviewer',
  secret VARCHAR(200) CHARACTER SET ascii NOT NULL COMMENT 'argon2id of the password',
  active TINYINT(1) NOT NULL DEFAULT 1,
  made_at DATETIME(6) NOT NULL,
  UNIQUE KEY person_name (name),
  CONSTRAINT person_role CHECK (role IN ('owner', 'designer', 'bench', 'reviewer'))
) ENGINE=InnoDB;
