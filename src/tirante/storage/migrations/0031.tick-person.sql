ALTER TABLE tick ADD COLUMN person_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NULL COMMENT 'who was signed in, null where nobody was';
