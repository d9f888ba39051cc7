INSERT IGNORE INTO drew (job_id, person_id, version) SELECT id, '', 1 FROM job;
