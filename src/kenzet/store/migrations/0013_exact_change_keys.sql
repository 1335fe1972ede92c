ALTER TABLE revision MODIFY change_key VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL COMMENT 'a change sent twice is made once; compared exactly';
