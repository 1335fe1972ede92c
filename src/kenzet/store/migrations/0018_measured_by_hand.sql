ALTER TABLE remark
    MODIFY kind ENUM('verdict', 'note', 'photo', 'done', 'left out', 'measured') NOT NULL;
