CREATE TABLE IF NOT EXISTS sewing_event (
    seq BIGINT UNSIGNED NOT NULL AUTO_INCREMENT,
    quilt_id CHAR(12) CHARACTER SET ascii NOT NULL,
    id VARCHAR(40) CHARACTER SET ascii NOT NULL,
    told JSON NOT NULL,
    PRIMARY KEY (seq),
    UNIQUE KEY sewing_event_once (quilt_id, id),
    KEY sewing_event_in_order (quilt_id, seq),
    CONSTRAINT sewing_event_quilt FOREIGN KEY (quilt_id) REFERENCES quilt (id)
) ENGINE = InnoDB;
