-- Which list of allergens the kitchen follows: the 14 groups of the EU, or the 9 of the US.
-- depends: 0002_offers_that_end

ALTER TABLE kitchen ADD COLUMN allergen_list text NOT NULL DEFAULT 'eu14' CHECK (allergen_list IN ('eu14', 'us9'));
