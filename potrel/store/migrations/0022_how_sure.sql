-- How long prices may move before somebody looks at them again, and of what a recipe is a variant.
-- depends: 0021_the_pot_in_full

ALTER TABLE kitchen ADD COLUMN price_horizon_days minutes NOT NULL DEFAULT 30;
-- No reference: what it is a variant of may be taken off the list, and come back.
ALTER TABLE recipe ADD COLUMN variant_of ref CHECK (variant_of <> id);
