CREATE TABLE IF NOT EXISTS recipe (
    owner_id INT UNSIGNED NOT NULL,
    name VARCHAR(80) NOT NULL,
    fill JSON NOT NULL,
    kept_at TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
    PRIMARY KEY (owner_id, name),
    CONSTRAINT recipe_owner FOREIGN KEY (owner_id) REFERENCES owner (id)
) ENGINE = InnoDB;
