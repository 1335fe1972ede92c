ALTER TABLE sewing_event MODIFY id VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL COMMENT 'compared exactly';
