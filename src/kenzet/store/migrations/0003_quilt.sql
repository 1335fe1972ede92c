CREATE TABLE IF NOT EXISTS quilt (
    id CHAR(12) CHARACTER SET ascii NOT NULL PRIMARY KEY,
    owner_id INT UNSIGNED NOT NULL,
    current INT UNSIGNED NOT NULL COMMENT 'the revision that is shown',
    version INT UNSIGNED NOT NULL COMMENT 'grows with every change, undo and redo: the optimistic lock',
    made_at TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
    changed_at TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3) ON UPDATE CURRENT_TIMESTAMP(3),
    KEY of_owner (owner_id, changed_at),
    CONSTRAINT quilt_owner FOREIGN KEY (owner_id) REFERENCES owner (id)
) ENGINE = InnoDB;
