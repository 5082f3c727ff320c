-- Whose limits of temperature stand in the cautions; none where nobody said.
-- depends: 0029_every_question

ALTER TABLE kitchen ADD COLUMN food_code text CHECK (food_code IN ('fsa', 'fda'));
