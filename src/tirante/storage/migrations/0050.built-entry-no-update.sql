CREATE TRIGGER built_entry_no_update BEFORE UPDATE ON built_entry FOR EACH ROW SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'rows of this table are only added';
