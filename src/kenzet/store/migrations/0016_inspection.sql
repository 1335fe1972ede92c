CREATE TABLE IF NOT EXISTS inspection (
    id CHAR(12) CHARACTER SET ascii NOT NULL,
    quilt_id CHAR(12) CHARACTER SET ascii NOT NULL,
    place VARCHAR(40) CHARACTER SET ascii NOT NULL,
    photo_id CHAR(12) CHARACTER SET ascii NOT NULL,
    revision INT UNSIGNED NOT NULL COMMENT 'the plan that it was measured against',
    found JSON NOT NULL COMMENT 'how the photograph was taken, and every side',
    struck JSON NOT NULL COMMENT 'sides that she has struck out or nudged',
    made_at TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
    struck_at TIMESTAMP(3) NULL,
    PRIMARY KEY (id),
    KEY inspection_of (quilt_id, place, made_at),
    CONSTRAINT inspection_quilt FOREIGN KEY (quilt_id) REFERENCES quilt (id),
    CONSTRAINT inspection_photo FOREIGN KEY (photo_id) REFERENCES photo (id)
) ENGINE = InnoDB;
