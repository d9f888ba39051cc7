CREATE INDEX survey_entry_sort ON survey_entry (sort, number);
