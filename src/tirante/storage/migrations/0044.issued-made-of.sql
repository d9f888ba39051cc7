ALTER TABLE issued ADD COLUMN made_of LONGTEXT NULL COMMENT 'JSON: stamp and layouts that its pack was made of, null of one from before';
