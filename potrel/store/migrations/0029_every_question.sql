-- What kinds of question there are is known to the core alone: it refuses what is none.
-- depends: 0028_what_is_in_it

ALTER TABLE practice_answer DROP CONSTRAINT practice_answer_kind_check;
ALTER TABLE practice_answer ALTER COLUMN kind TYPE label;
