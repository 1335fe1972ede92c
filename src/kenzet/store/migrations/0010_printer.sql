CREATE TABLE IF NOT EXISTS printer (
    owner_id INT UNSIGNED NOT NULL,
    name VARCHAR(60) NOT NULL,
    across DECIMAL(9, 6) NOT NULL,
    up DECIMAL(9, 6) NOT NULL,
    PRIMARY KEY (owner_id, name),
    CONSTRAINT printer_owner FOREIGN KEY (owner_id) REFERENCES owner (id)
) ENGINE = InnoDB;
