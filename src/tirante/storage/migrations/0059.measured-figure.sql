ALTER TABLE measured CHANGE COLUMN mm figure DOUBLE NOT NULL COMMENT 'in the unit of what is measured: mm, or N·m of a torque';
