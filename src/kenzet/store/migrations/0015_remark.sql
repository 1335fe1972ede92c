CREATE TABLE IF NOT EXISTS remark (
    seq BIGINT UNSIGNED NOT NULL AUTO_INCREMENT,
    quilt_id CHAR(12) CHARACTER SET ascii NOT NULL,
    id VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL COMMENT 'a remark sent twice is kept once',
    about VARCHAR(80) NOT NULL COMMENT 'place:1-1, zone:star, sitting:1700000000, todo:…',
    kind ENUM('verdict', 'note', 'photo', 'done', 'left out') NOT NULL,
    told VARCHAR(2000) NOT NULL,
    made_at TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
    struck_at TIMESTAMP(3) NULL,
    PRIMARY KEY (seq),
    UNIQUE KEY remark_once (quilt_id, id),
    CONSTRAINT remark_quilt FOREIGN KEY (quilt_id) REFERENCES quilt (id)
) ENGINE = InnoDB;
