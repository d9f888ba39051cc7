CREATE TRIGGER measured_no_delete BEFORE DELETE ON measured FOR EACH ROW SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'rows of this table are only added';
