ALTER TABLE quilt ADD COLUMN IF NOT EXISTS state ENUM('at hand', 'put away', 'deleted') NOT NULL DEFAULT 'at hand';
