CREATE TABLE task (
  id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY COMMENT 'made by the client',
  job_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NULL COMMENT 'that it was asked from',
  kind VARCHAR(40) CHARACTER SET ascii NOT NULL,
  state ENUM('queued', 'running', 'done', 'failed', 'cancelled') NOT NULL DEFAULT 'queued',
  body LONGTEXT NOT NULL COMMENT 'JSON: what is to be done',
  done INT UNSIGNED NOT NULL DEFAULT 0,
  of_all INT UNSIGNED NOT NULL DEFAULT 0,
  stop TINYINT(1) NOT NULL DEFAULT 0 COMMENT 'asked to end, what is done stands',
  tries INT UNSIGNED NOT NULL DEFAULT 0,
  worker VARCHAR(60) CHARACTER SET ascii NULL,
  result LONGTEXT NULL COMMENT 'JSON',
  fault VARCHAR(500) NULL,
  made_at DATETIME(6) NOT NULL,
  seen_at DATETIME(6) NULL COMMENT 'last sign of life of its worker',
  ended_at DATETIME(6) NULL,
  KEY task_next (state, made_at)
) ENGINE=InnoDB;
