INSERT IGNORE INTO owner (id, name) VALUES (1, 'local');
