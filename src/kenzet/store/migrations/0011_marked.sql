CREATE TABLE IF NOT EXISTS marked (
    quilt_id CHAR(12) CHARACTER SET ascii NOT NULL,
    zone_key VARCHAR(60) NOT NULL,
    done INT UNSIGNED NOT NULL DEFAULT 0,
    put_on DATE NULL,
    taken_off DATE NULL,
    PRIMARY KEY (quilt_id, zone_key),
    CONSTRAINT marked_quilt FOREIGN KEY (quilt_id) REFERENCES quilt (id)
) ENGINE = InnoDB;
