-- What the cost of a usable kilo or ready litre takes: trim labour, dilution of bases and cubes, their salt.
-- depends: 0003_allergen_list

ALTER TABLE preparation ADD COLUMN minutes_per_kg minutes;
ALTER TABLE item ADD COLUMN ready_litres_per_kg numeric CHECK (ready_litres_per_kg > 0);
ALTER TABLE item ADD COLUMN salt_share share;
