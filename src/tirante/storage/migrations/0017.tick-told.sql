ALTER TABLE tick ADD COLUMN told MEDIUMTEXT NOT NULL DEFAULT '{}' COMMENT 'what was written down with it, as JSON';
