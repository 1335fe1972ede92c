ALTER TABLE marked
    ADD COLUMN IF NOT EXISTS put_at TIMESTAMP NULL COMMENT 'when the first mark was put on',
    ADD COLUMN IF NOT EXISTS faded_at TIMESTAMP NULL COMMENT 'when she found them gone by themselves';
