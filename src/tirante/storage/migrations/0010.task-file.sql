ALTER TABLE task ADD COLUMN file LONGBLOB NULL COMMENT 'what came of it, where that is a file';
