ALTER TABLE deed ADD KEY deed_what (what, at);
