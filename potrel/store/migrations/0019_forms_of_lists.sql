-- How each kind of table of a supplier is read, by its heads: a supplier sends more than one.
-- depends: 0018_one_way_to_read

ALTER TABLE supplier ADD COLUMN forms jsonb NOT NULL DEFAULT '[]';
