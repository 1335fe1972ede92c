CREATE TABLE IF NOT EXISTS swatch (
    id CHAR(12) CHARACTER SET ascii NOT NULL PRIMARY KEY,
    owner_id INT UNSIGNED NOT NULL,
    sewn JSON NOT NULL COMMENT 'the piece as it was sewn, never rewritten',
    found JSON NOT NULL COMMENT 'what she found of it',
    made_at TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
    struck_at TIMESTAMP(3) NULL,
    KEY swatch_of (owner_id, made_at),
    CONSTRAINT swatch_owner FOREIGN KEY (owner_id) REFERENCES owner (id)
) ENGINE = InnoDB;
