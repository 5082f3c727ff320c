-- What is said of a line beside its amount: "crushed", "about 400 g".
-- depends: 0013_allergen_checks

ALTER TABLE line ADD COLUMN note text CHECK (char_length(note) BETWEEN 1 AND 200);
ALTER TABLE serving_line ADD COLUMN note text CHECK (char_length(note) BETWEEN 1 AND 200);
