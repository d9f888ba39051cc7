ALTER TABLE signed_in
  ADD COLUMN id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT (UUID()) COMMENT 'that it is named by, no secret',
  ADD COLUMN device_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NULL COMMENT 'null at this machine itself',
  ADD UNIQUE KEY signed_in_id (id),
  ADD CONSTRAINT signed_in_device FOREIGN KEY (device_id) REFERENCES device (id);
