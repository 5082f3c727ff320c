-- Who read the label of which article, and what the seasoning allowance of a recipe stands for.
-- depends: 0012_measures_with_a_basis

ALTER TABLE item
    ADD COLUMN checked_on date,
    ADD COLUMN checked_by text,
    ADD COLUMN checked_supplier text,
    ADD COLUMN checked_code text,
    ADD COLUMN checked_gtin text,
    ADD CHECK ((checked_on IS NULL) = (checked_by IS NULL)),
    ADD CHECK (checked_on IS NOT NULL OR (checked_supplier IS NULL AND checked_code IS NULL AND checked_gtin IS NULL));
ALTER TABLE recipe ADD COLUMN allowance_covers text[] NOT NULL DEFAULT '{}';
