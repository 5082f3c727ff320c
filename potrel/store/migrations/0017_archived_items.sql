-- An item that is bought no more is put away: it stays where it is used, and is offered nowhere.
-- depends: 0016_what_is_left_of_a_list

ALTER TABLE item ADD COLUMN archived boolean NOT NULL DEFAULT false;
