CREATE TRIGGER review_withdrawn_no_update BEFORE UPDATE ON review_withdrawn FOR EACH ROW SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'rows of this table are only added';
