CREATE TABLE IF NOT EXISTS revision (
    quilt_id CHAR(12) CHARACTER SET ascii NOT NULL,
    number INT UNSIGNED NOT NULL,
    parent INT UNSIGNED NULL COMMENT 'where undo leads; NULL for the first',
    what VARCHAR(200) NOT NULL COMMENT 'what was done, in words',
    change_key VARCHAR(40) CHARACTER SET ascii NOT NULL COMMENT 'a change sent twice is made once',
    document JSON NOT NULL,
    made_at TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
    PRIMARY KEY (quilt_id, number),
    UNIQUE KEY once (quilt_id, change_key),
    KEY children (quilt_id, parent, number),
    CONSTRAINT revision_quilt FOREIGN KEY (quilt_id) REFERENCES quilt (id)
) ENGINE = InnoDB;
