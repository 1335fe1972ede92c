CREATE TABLE IF NOT EXISTS thing (
    position INT UNSIGNED NOT NULL AUTO_INCREMENT UNIQUE,
    owner_id INT UNSIGNED NOT NULL,
    thing_key VARCHAR(60) NOT NULL,
    document JSON NOT NULL,
    PRIMARY KEY (owner_id, thing_key),
    CONSTRAINT thing_owner FOREIGN KEY (owner_id) REFERENCES owner (id)
) ENGINE = InnoDB;
