-- Bus maps are documents like the others.
ALTER TABLE profile MODIFY kind ENUM('car', 'variant', 'kit', 'coding', 'busMap') NOT NULL;
ALTER TABLE profile_newest MODIFY kind ENUM('car', 'variant', 'kit', 'coding', 'busMap') NOT NULL;
ALTER TABLE profile_draft MODIFY kind ENUM('car', 'variant', 'kit', 'coding', 'busMap') NOT NULL;
