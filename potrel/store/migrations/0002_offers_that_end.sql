-- Offers that end: the last day on which a price holds.
-- depends: 0001_kitchen

ALTER TABLE offer ADD COLUMN valid_until date CHECK (valid_until >= valid_from);
