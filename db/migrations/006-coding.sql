-- Coding maps are documents like the others.
ALTER TABLE profile MODIFY kind ENUM('car', 'variant', 'kit', 'coding') NOT NULL;
ALTER TABLE profile_newest MODIFY kind ENUM('car', 'variant', 'kit', 'coding') NOT NULL;
ALTER TABLE profile_draft MODIFY kind ENUM('car', 'variant', 'kit', 'coding') NOT NULL;

-- The control units of a stand-in car as they are, so that a session goes on through any server.
ALTER TABLE stand_in ADD COLUMN IF NOT EXISTS units LONGTEXT NULL;
